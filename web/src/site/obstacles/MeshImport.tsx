import { FileUp, TriangleAlert } from 'lucide-react'
import { useId, useState } from 'react'
import type { Schemas } from '../../api/client'
import { sendMesh } from '../../api/meshFile'
import { Button } from '../../ui/Button'
import { Choice } from '../../ui/Choice'
import { Switch } from '../../ui/Switch'
import { showCount, showNumber } from '../../ui/parse'
import { UNITS, findingWords, sizeOf, type Placing } from './findings'

const USUAL: Placing = { unit_m: 1, up: 'y', recentre: true, turn_over: false, mend: false }

export interface BroughtMesh {
  blob: string
  name: string
  placing: Placing
  /** The parts that are taken; all of them when empty. */
  parts: string[]
}

interface MeshImportProps {
  /** What the button that places it says. */
  action: string
  testId: string
  /** Whether its parts can be taken one by one. */
  byPart?: boolean
  /** With its size east, up and north, metres. */
  onPlace(mesh: BroughtMesh, size: [number, number, number]): void
}

/** Brings a mesh from a file: first it is looked over, and only then placed. */
export function MeshImport({ action, testId, byPart, onPlace }: MeshImportProps) {
  const [left, setLeft] = useState<string[]>([])
  const id = useId()
  const [busy, setBusy] = useState(false)
  const [problem, setProblem] = useState<string | null>(null)
  const [read, setRead] = useState<{ name: string; view: Schemas['MeshView'] } | null>(null)
  const [placing, setPlacing] = useState(USUAL)

  const bring = async (file: File) => {
    setBusy(true)
    setProblem(null)
    setRead(null)
    setPlacing(USUAL)
    setLeft([])
    try {
      const sent = await sendMesh(file)
      setRead(sent)
      // What looks down is turned over unless one says otherwise.
      setPlacing({ ...USUAL, turn_over: sent.view.inspection.findings.some((f) => f.finding === 'looks_down') })
    } catch (e) {
      setProblem(e instanceof Error ? e.message : String(e))
    } finally {
      setBusy(false)
    }
  }
  const place = () => {
    const labels = read!.view.inspection.parts.map((p) => p.label)
    const parts = left.length === 0 ? [] : labels.filter((l) => !left.includes(l))
    onPlace({ blob: read!.view.blob, name: read!.name, placing, parts }, sizeOf(read!.view.inspection, placing))
    setRead(null)
  }
  const found = read?.view.inspection
  const size = found && sizeOf(found, placing)

  return (
    <div className="mt-2">
      <label htmlFor={id} className="inline-flex h-7 cursor-pointer items-center gap-1.5 rounded-md px-2 text-soft hover:bg-well hover:text-ink" title="OBJ, PLY or GLB, up to 256 MB and 6 million triangles">
        <FileUp size={13} aria-hidden />
        {busy ? 'Looking it over…' : 'From a mesh file'}
      </label>
      <input id={id} type="file" accept=".obj,.ply,.glb" disabled={busy} data-testid={`${testId}-file`} className="sr-only"
        onChange={(e) => {
          const file = e.currentTarget.files?.[0]
          e.currentTarget.value = ''
          if (file) void bring(file)
        }}
      />
      {problem && (
        <p role="alert" data-testid={`${testId}-problem`} className="mt-1 rounded bg-iron-wash px-2 py-1.5">
          <span className="font-medium">This file was not taken; nothing was changed.</span> {problem}
        </p>
      )}
      {read && found && size && (
        <div className="mt-1 flex flex-col gap-2 rounded-md border border-dashed border-rule p-3" data-testid={`${testId}-read`}>
          <p>
            <span className="font-medium">{read.name}</span>: {showCount(found.triangles)} triangles
            {found.parts.length > 1 && ` in ${found.parts.length} parts (${found.parts.slice(0, 4).map((p) => p.label).join(', ')}${found.parts.length > 4 ? '…' : ''})`};{' '}
            {size.map((s) => showNumber(s, 2)).join(' × ')} m east, up, north.
          </p>
          {found.findings.map((f) => {
            const said = findingWords(f)
            const turned = f.finding === 'looks_down' && placing.turn_over
            const text = turned ? 'An open surface that looks down: it is turned over.' : said.text
            const fix = turned ? { name: 'Leave it', change: { turn_over: false } } : said.fix
            return (
              <p key={f.finding} className="flex items-start gap-1.5 rounded bg-lichen-wash px-2 py-1">
                <TriangleAlert size={13} className="mt-0.5 shrink-0 text-lichen" aria-hidden />
                <span className="flex-1">{text}</span>
                {fix && (
                  <Button look="quiet" className="h-5!" onClick={() => setPlacing({ ...placing, ...fix.change })}>
                    {fix.name}
                  </Button>
                )}
              </p>
            )
          })}
          <div className="flex flex-wrap items-center gap-2">
            <Choice label="One unit is" value={UNITS.find((u) => u.metres === placing.unit_m)?.value ?? null} options={UNITS.map(({ value, name }) => ({ value, name }))}
              onChange={(unit) => setPlacing({ ...placing, unit_m: UNITS.find((u) => u.value === unit)!.metres })} />
            <Choice label="Upright axis" value={placing.up} options={[{ value: 'y', name: 'Y up' }, { value: 'z', name: 'Z up' }]} onChange={(up) => setPlacing({ ...placing, up })} />
          </div>
          {byPart && found.parts.length > 1 && (
            <ul aria-label="Parts to take" className="flex max-h-36 flex-wrap gap-1 overflow-y-auto">
              {found.parts.map(({ label, triangles }) => (
                <li key={label}>
                  <button
                    type="button" aria-pressed={!left.includes(label)} title={`${showCount(triangles)} triangles`}
                    className={`h-6 max-w-40 truncate rounded-full border px-2 text-xs ${left.includes(label) ? 'border-rule text-soft line-through' : 'border-thrift bg-thrift-wash'}`}
                    onClick={() => setLeft(left.includes(label) ? left.filter((l) => l !== label) : [...left, label])}
                  >
                    {label}
                  </button>
                </li>
              ))}
            </ul>
          )}
          <div className="flex items-center gap-1.5 text-xs text-soft">
            <Switch label="Bring its base to where it stands" on={placing.recentre} onChange={(recentre) => setPlacing({ ...placing, recentre })} />
            bring the middle of its base to where it stands
          </div>
          <Button look="primary" data-testid={`place-${testId}`} disabled={found.parts.length > 0 && left.length >= found.parts.length} onClick={place}>
            {action}
          </Button>
        </div>
      )}
    </div>
  )
}
