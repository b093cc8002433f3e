import { useState } from 'react'
import type { ReadMesh } from '../../api/meshFile'
import { useScene } from '../../state/scene'
import { useUi } from '../../state/ui'
import { Button } from '../../ui/Button'
import { Choice } from '../../ui/Choice'
import { NumberField } from '../../ui/NumberField'
import { Select } from '../../ui/Select'
import { Switch } from '../../ui/Switch'
import { TextField } from '../../ui/TextField'
import { showCount, showNumber } from '../../ui/parse'
import { UNITS } from '../../site/obstacles/findings'
import { KINDS, sayLength } from '../kinds'
import { DraftFindings } from './DraftFindings'
import { PartsChoice } from './PartsChoice'
import { firstDraft, speciesOf, type Plan } from './draft'
import { useDraftPicture, useMeasured } from './useDraft'

interface SpeciesImportProps {
  read: ReadMesh
  all: { id: string }[]
  onClose(): void
}

/** A mesh file looked over before it becomes a species: nothing is changed until it is taken. */
export function SpeciesImport({ read, all, onClose }: SpeciesImportProps) {
  const [draft, setDraft] = useState(() => firstDraft(read))
  const [figure, setFigure] = useState(true)
  const { plan } = draft
  const change = (part: Partial<Plan>) => setDraft((d) => ({ ...d, plan: { ...d.plan, ...part } }))
  const { data: measured, error, isFetching } = useMeasured(plan)
  const species = measured ? speciesOf(draft, measured, all) : null
  const { data: picture, error: pictureError, isFetching: drawing } = useDraftPicture(species, figure)
  const take = () => {
    if (!species) return
    useScene.getState().run({ do: 'put_species', value: species })
    useUi.getState().set({ species: species.id })
    onClose()
  }
  const scale = plan.scale ?? 1
  const problem = error ?? pictureError
  return (
    <div data-testid="species-import" className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_290px] items-start gap-4 overflow-y-auto p-4">
      <figure className="sticky top-0 flex min-w-0 flex-col">
        <h2 className="mb-2 text-sm font-semibold">A species from {read.name}</h2>
        <div className="relative aspect-[7/6] overflow-hidden rounded-md border border-rule bg-well">
          {picture && <img src={picture} alt={`${draft.name}, as it would be`} data-testid="import-picture" className={`absolute inset-0 size-full object-cover ${drawing ? 'opacity-60' : ''}`} />}
          {(isFetching || drawing) && <span className="absolute bottom-2 left-2 rounded bg-panel px-2 py-1 text-xs text-soft">Taking its picture…</span>}
        </div>
        <figcaption className="mt-2 text-soft">
          {measured && (
            <span data-testid="import-measured">
              {sayLength(measured.tall_m * scale)} high, {sayLength(measured.wide_m * scale * 2)} wide; {measured.forms === 1 ? 'one form' : `${measured.forms} forms`},{' '}
              {showCount(measured.triangles[0])} triangles{measured.triangles[0] < measured.in_file && ` of ${showCount(measured.in_file)}, off by ${sayLength(measured.error_m * scale)}`};{' '}
              {measured.pictures.length === 0
                ? 'no pictures on it'
                : measured.pictures.map((p) => `${p.name || 'a picture'} ${p.width_px} × ${p.height_px}${p.holes ? ' with holes' : ''}`).join(', ')}
              .
            </span>
          )}
        </figcaption>
        <label className="mt-2 flex items-center gap-2">
          <Switch label="A figure of 1.75 m beside it" on={figure} onChange={setFigure} />
          A figure of 1.75 m beside it
        </label>
      </figure>
      <div className="flex flex-col gap-3">
        <p className="text-soft">Nothing is changed until you take it.</p>
        {problem && (
          <p role="alert" data-testid="import-problem" className="rounded bg-iron-wash px-2 py-1.5">
            <span className="font-medium">This cannot be taken as it is.</span> {problem.message}
          </p>
        )}
        {measured && <DraftFindings read={read} draft={draft} measured={measured} change={change} />}
        <TextField label="Name of the new species" value={draft.name} className="w-full text-sm font-semibold" onCommit={(name) => setDraft({ ...draft, name })} />
        <Select label="Kind" value={KINDS.find((k) => k.id === draft.kind)!.name} options={KINDS.map((k) => k.name)}
          onChange={(name) => setDraft({ ...draft, kind: KINDS.find((k) => k.name === name)!.id })} />
        <div className="flex flex-wrap items-center gap-2">
          <Choice label="One unit is" value={UNITS.find((u) => u.metres === plan.placing.unit_m)?.value ?? null} options={UNITS.map(({ value, name }) => ({ value, name }))}
            onChange={(unit) => change({ placing: { ...plan.placing, unit_m: UNITS.find((u) => u.value === unit)!.metres } })} />
          <Choice label="Upright axis" value={plan.placing.up} options={[{ value: 'y', name: 'Y up' }, { value: 'z', name: 'Z up' }]} onChange={(up) => change({ placing: { ...plan.placing, up } })} />
        </div>
        {measured && (
          <div className="grid grid-cols-2 gap-3">
            <NumberField label="Real height" testId="import-height" unit="m" value={measured.tall_m * scale} min={measured.tall_m * 0.0001} max={measured.tall_m * 10_000} step={measured.tall_m * scale * 0.01}
              digits={3} hint={`As the file has it: ${showNumber(measured.tall_m, 3)} m. The width follows.`} onChange={(h) => change({ scale: h / measured.tall_m })} />
            <NumberField label="Most triangles" testId="import-most" value={Math.min(plan.most_triangles ?? 1e6, Math.max(measured.in_file, 50))} min={50} max={1_000_000} step={100} digits={0}
              hint="A form with more is simplified to this many at full detail." onChange={(most_triangles) => change({ most_triangles })} />
            <NumberField label="Soft light" unit="%" value={(plan.soft ?? 0) * 100} min={0} max={100} step={5} digits={0} hint="Bends normals outwards from the middle, so that foliage is lit as one body." onChange={(v) => change({ soft: v / 100 })} />
            <NumberField label="Stem at the foot" unit="mm" value={plan.stem_mm ?? 0} min={0} max={3000} step={1} digits={0} hint="How thick its stem is, for bending in the wind. 0 does not bend." onChange={(stem_mm) => change({ stem_mm })} />
          </div>
        )}
        <PartsChoice parts={read.view.inspection.parts} taken={plan.parts ?? []} each={plan.each ?? false} onChange={change} />
        <label className="flex items-center gap-2">
          <Switch label="Thin leaves" on={plan.thin ?? false} onChange={(thin) => change({ thin })} />
          Thin leaves: seen from both sides, light goes through
        </label>
        <label className="flex items-center gap-2">
          <Switch label="Stand it on its base point" on={plan.placing.recentre} onChange={(recentre) => change({ placing: { ...plan.placing, recentre } })} />
          Stand it on its base point
        </label>
        <label className="flex items-center gap-2">
          <Switch label="Turn all faces over" on={plan.placing.turn_over} onChange={(turn_over) => change({ placing: { ...plan.placing, turn_over } })} />
          Turn all faces over
        </label>
        <div className="flex gap-2">
          <Button look="primary" data-testid="take-import" disabled={!species || !!problem || isFetching} onClick={take}>
            Take it into the nursery
          </Button>
          <Button onClick={onClose}>Leave it</Button>
        </div>
      </div>
    </div>
  )
}
