import { FileUp } from 'lucide-react'
import { useId, useState } from 'react'
import { ApiFailure, failure, type Schemas } from '../api/client'
import { useScene } from '../state/scene'
import { Button } from '../ui/Button'
import { NumberField } from '../ui/NumberField'
import { showCount, showNumber } from '../ui/parse'

const MOST_BYTES = 64 * 1024 * 1024

interface Read {
  name: string
  view: Schemas['HeightmapView']
}

/** Brings a heightmap: first it is read and described, and only then the ground changes. */
export function HeightmapImport({ onDone }: { onDone(): void }) {
  const { run } = useScene.getState()
  const id = useId()
  const [read, setRead] = useState<Read | null>(null)
  const [busy, setBusy] = useState(false)
  const [problem, setProblem] = useState<string | null>(null)
  const [size, setSize] = useState({ width_m: 500, depth_m: 500, low_m: 0, high_m: 80 })

  const bring = async (file: File) => {
    setBusy(true)
    setProblem(null)
    setRead(null)
    try {
      const view = await upload(file)
      const { nx, nz, low, high, width_m, depth_m, white } = view.inspection
      setRead({ name: file.name.slice(0, 80), view })
      const own = white == null
      setSize({
        width_m: width_m ?? nx - 1,
        depth_m: depth_m ?? nz - 1,
        low_m: own ? low : 0,
        high_m: own ? high : Math.max(10, Math.round((nx - 1) / 8)),
      })
    } catch (e) {
      setProblem(e instanceof Error ? e.message : String(e))
    } finally {
      setBusy(false)
    }
  }
  const found = read?.view.inspection
  const grey = found?.white != null
  const use = () => {
    const { blob, inspection } = read!.view
    run({
      do: 'edit_ground',
      edit: { set: 'source', value: { kind: 'heightmap', blob, format: inspection.format, name: read!.name, ...size, samples: [inspection.nx, inspection.nz], ...(inspection.middle_m && { middle_m: inspection.middle_m }) } },
    })
    setRead(null)
    onDone()
  }
  const field = (key: keyof typeof size, label: string, min: number, max: number) => (
    <NumberField
      label={label}
      unit="m"
      testId={`import-${key}`}
      value={size[key]}
      min={min}
      max={max}
      step={1}
      digits={1}
      onChange={(v) => setSize({ ...size, [key]: v })}
    />
  )
  return (
    <div className="rounded-md border border-dashed border-rule p-3">
      <label htmlFor={id} className="flex cursor-pointer items-center gap-2 font-medium">
        <FileUp size={15} aria-hidden />
        {busy ? 'Reading…' : 'Bring a heightmap'}
      </label>
      <p className="mt-0.5 mb-2 text-xs text-soft">
        PNG or TIFF in grey, GeoTIFF, OpenEXR or ESRI ASCII grid; up to 4096 × 4096 and 64 MB. Nothing changes before you say so.
      </p>
      <input
        id={id}
        type="file"
        accept=".png,.tif,.tiff,.exr,.asc,.txt,image/png,image/tiff,text/plain"
        data-testid="heightmap-file"
        disabled={busy}
        className="w-full text-xs file:mr-2 file:rounded file:border file:border-rule file:bg-panel file:px-2 file:py-1 file:text-ink"
        onChange={(e) => {
          const file = e.currentTarget.files?.[0]
          if (file) void bring(file)
        }}
      />
      {problem && (
        <p role="alert" data-testid="heightmap-problem" className="mt-2 rounded bg-iron-wash px-2 py-1.5">
          <span className="font-medium">This file was not taken; the ground is as it was.</span> {problem}
        </p>
      )}
      {read && found && (
        <div className="mt-3" data-testid="heightmap-read">
          <p className="mb-2">
            {showCount(found.nx)} × {showCount(found.nz)} heights, {grey ? 'grey values' : 'metres'} from{' '}
            {showNumber(found.low, 1)} to {showNumber(found.high, 1)}
            {found.missing === 0 && ', none missing'}.
            {found.middle_m && ` Its middle lies at E ${showNumber(found.middle_m[0], 1)}, N ${showNumber(found.middle_m[1], 1)} m on its own map.`}
            {found.width_m == null && ' The file states no size: one metre a height is assumed.'}
          </p>
          {found.missing > 0 && (
            <p className="mb-2 rounded bg-lichen-wash px-2 py-1.5" data-testid="heightmap-missing">
              {showCount(found.missing)} heights ({percent(found.missing / (found.nx * found.nz))}) are missing. They
              will be filled smoothly from those around them; the file itself stays as it is.
            </p>
          )}
          <div className="mb-2 grid grid-cols-2 gap-2">
            {field('width_m', 'West to east', 1, 60000)}
            {field('depth_m', 'North to south', 1, 60000)}
            {field('low_m', grey ? 'Black is at' : 'Lowest', -12000, 12000)}
            {field('high_m', grey ? 'White is at' : 'Highest', -12000, 12000)}
          </div>
          <Button look="primary" data-testid="use-heightmap" disabled={size.high_m < size.low_m} onClick={use}>
            Use this ground
          </Button>
        </div>
      )}
    </div>
  )
}

/** A share that is never told as none. */
const percent = (share: number) => (share < 0.001 ? 'less than 0.1 %' : `${showNumber(share * 100, 1)} %`)

async function upload(file: File): Promise<Schemas['HeightmapView']> {
  if (file.size > MOST_BYTES) {
    throw new ApiFailure('too_large', `It has ${showNumber(file.size / 1048576, 0)} MB; the limit is 64 MB.`)
  }
  const response = await fetch('/api/heightmaps', {
    method: 'POST',
    body: file,
    headers: { 'content-type': 'application/octet-stream' },
  }).catch(() => {
    throw new ApiFailure('offline', 'The server does not answer.')
  })
  const body = await response.json().catch(() => null)
  if (!response.ok) throw failure(body, response.status)
  return body as Schemas['HeightmapView']
}
