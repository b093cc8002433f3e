import type { Layer } from '../api/client'
import { useScene } from '../state/scene'
import { NumberField } from '../ui/NumberField'
import { RangeField } from '../ui/RangeField'
import { useMost } from './moreStance'

interface FieldProps {
  layer: Layer
}

const STAYS = 'No plant moves, comes or goes.'
const edit = () => useScene.getState().editLayer

export function SizeField({ layer }: FieldProps) {
  return (
    <RangeField
      label="Size, times full size"
      testId="size"
      value={layer.stance.size}
      fallback={{ min: 0.8, max: 1.25 }}
      min={0.01}
      max={100}
      step={0.02}
      unit="×"
      disabled={layer.locked}
      hint={STAYS}
      onChange={(value, gesture) => edit()(layer.id, { set: 'size', value }, gesture)}
    />
  )
}

export function TurnField({ layer }: FieldProps) {
  return (
    <RangeField
      label="Turn, clockwise from north"
      testId="turn"
      value={layer.stance.turn_deg}
      fallback={{ min: 0, max: 360 }}
      min={-360}
      max={360}
      step={2}
      digits={0}
      unit="°"
      disabled={layer.locked}
      hint={STAYS}
      onChange={(value, gesture) => edit()(layer.id, { set: 'turn', value }, gesture)}
    />
  )
}

export function TiltField({ layer }: FieldProps) {
  const most = useMost(layer)
  return (
    <NumberField
      label="Tilt, up to"
      testId="tilt"
      value={layer.stance.tilt_deg}
      fallback={6}
      min={0}
      max={Math.max(most.tilt_deg, layer.stance.tilt_deg)}
      step={0.5}
      digits={1}
      unit="°"
      disabled={layer.locked}
      hint={`Any way from its upright. ${STAYS}`}
      onChange={(value, gesture) => edit()(layer.id, { set: 'tilt', value }, gesture)}
    />
  )
}

export function UprightField({ layer }: FieldProps) {
  return (
    <NumberField
      label="Towards the surface"
      testId="upright"
      value={Math.round(layer.stance.upright * 1000) / 10}
      fallback={20}
      min={0}
      max={100}
      step={1}
      digits={0}
      unit="%"
      disabled={layer.locked}
      hint={`0 stands upright, 100 square to the ground. ${STAYS}`}
      onChange={(value, gesture) => edit()(layer.id, { set: 'upright', value: value / 100 }, gesture)}
    />
  )
}

export function SinkField({ layer }: FieldProps) {
  return (
    <NumberField
      label="Sunk"
      testId="sink"
      value={Math.round(layer.stance.sink_m * 10000) / 100}
      fallback={2}
      min={-1000}
      max={1000}
      step={0.5}
      digits={1}
      unit="cm"
      disabled={layer.locked}
      hint={`How deep the base lies in the ground; below zero it is raised. ${STAYS}`}
      onChange={(value, gesture) => edit()(layer.id, { set: 'sink', value: value / 100 }, gesture)}
    />
  )
}
