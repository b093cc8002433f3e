import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { Slice } from 'lucide-react'
import { useEffect, useMemo, useRef } from 'react'
import { api, wanted } from '../api/client'
import { useFlow, useGround, useReadings, useSpecies } from '../state/data'
import { useScene } from '../state/scene'
import { useUi, type Reading } from '../state/ui'
import { Button } from '../ui/Button'
import { NumberField } from '../ui/NumberField'
import { showCount, showNumber } from '../ui/parse'
import { READINGS } from '../view/readings'
import { readTogether } from '../view/useOverlay'
import { drawSection } from './drawSection'

/** The ground cut along a line with what stands on it, to scale. */
export function Section() {
  const { data: species } = useSpecies()
  const scene = useScene((s) => s.scene!)
  const { section, theme, reading, windShown, station, set } = useUi()
  const { data: flow } = useFlow()
  const { data: readings } = useReadings()
  const { data: ground } = useGround()
  const canvas = useRef<HTMLCanvasElement>(null)
  const box = useRef<HTMLDivElement>(null)

  // Until a line is drawn, the section runs from west to east through the middle.
  useEffect(() => {
    if (!section && ground) set({ section: { from: [-ground.size_m[0] / 2, 0], to: [ground.size_m[0] / 2, 0], width_m: 3 } })
  }, [section, ground, set])

  const { data, error } = useQuery({
    queryKey: ['section', scene.id, scene.seq, section, reading],
    enabled: section !== null,
    placeholderData: keepPreviousData,
    queryFn: () =>
      wanted(
        api.GET('/api/scenes/{scene}/section', {
          params: {
            path: { scene: scene.id },
            query: { from_x: section!.from[0], from_z: section!.from[1], to_x: section!.to[0], to_z: section!.to[1], width_m: section!.width_m, reading },
          },
        }),
      ),
  })
  const stones = useMemo(() => new Set((species ?? []).filter((s) => s.kind === 'rock').map((s) => s.id)), [species])
  // The same colours as on the ground of the view.
  const scale = useMemo(() => (reading ? readTogether([...readings.values()].filter((r) => r.reading === reading)) : null), [reading, readings])
  const blows = windShown && station === 'motion'
  const wind = useMemo(
    () => (blows && flow && section ? { flow, from: section.from as [number, number], to: section.to as [number, number] } : null),
    [blows, flow, section],
  )
  useEffect(() => {
    if (!data || !canvas.current || !box.current) return
    const draw = () => drawSection(canvas.current!, box.current!.clientWidth, box.current!.clientHeight, data, scene.document.layers, stones, scale, wind)
    draw()
    const watch = new ResizeObserver(draw)
    watch.observe(box.current)
    return () => watch.disconnect()
  }, [data, scene.document.layers, theme, stones, scale, wind])

  return (
    <div className="flex h-full flex-col gap-1">
      <div className="flex items-end gap-3">
        <Button onClick={() => set({ drawing: { what: 'section' }, sculpting: null, probing: false, chosen: null })}>
          <Slice size={13} aria-hidden />
          Draw the line
        </Button>
        {section && (
          <div className="w-28">
            <NumberField label="Plants within" testId="section-width" unit="m" value={section.width_m} min={0.1} max={200} step={0.1} digits={1} fallback={3}
              hint="The strip along the line whose plants are drawn." onChange={(width_m) => set({ section: { ...section, width_m } })} />
          </div>
        )}
        <label className="flex flex-col text-xs text-soft">
          Read along it
          <select data-testid="section-reading" value={reading ?? ''} onChange={(e) => set({ reading: (e.currentTarget.value || null) as Reading | null })}
            className="h-7 rounded-md border border-rule bg-panel px-1.5 text-sm text-ink">
            <option value="">nothing</option>
            {(Object.keys(READINGS) as Reading[]).map((id) => (
              <option key={id} value={id}>
                {READINGS[id].name.toLowerCase()}
              </option>
            ))}
          </select>
        </label>
        <p className="pb-1 text-xs text-soft" data-testid="section-words">
          {error ? error.message : data && `${showNumber(data.length_m, 0)} m long; ${showCount(data.standing)} plants stand within ${showNumber(section?.width_m ?? 0, 1)} m${data.standing > data.plants.length ? `, the nearest ${showCount(data.plants.length)} are drawn` : ''}.`}
          {wind && ' Arrows: the mean wind along the line.'}
        </p>
      </div>
      <div ref={box} className="min-h-0 flex-1">
        <canvas ref={canvas} role="img" aria-label="The ground along the line, with plants standing on it" data-testid="section" className="block" />
      </div>
    </div>
  )
}
