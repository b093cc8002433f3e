import { Download, FileUp } from 'lucide-react'
import { useId, useState } from 'react'
import { failure, type Outline } from '../../api/client'
import { download } from '../../sheet/download'
import { freshId, useScene } from '../../state/scene'
import { Button } from '../../ui/Button'

/** Brings outlines from a file, and hands them to other programs. */
export function OutlineFiles() {
  const scene = useScene((s) => s.scene!)
  const outlines = scene.document.outlines ?? []
  const { run } = useScene.getState()
  const id = useId()
  const [problem, setProblem] = useState<string | null>(null)

  const source = scene.document.ground.source
  const [east, north] = (source.kind === 'heightmap' && source.middle_m) || [0, 0]

  const bring = async (file: File) => {
    setProblem(null)
    try {
      const response = await fetch(`/api/outlines?east_m=${east}&north_m=${north}`, { method: 'POST', body: file, headers: { 'content-type': 'application/octet-stream' } })
      const body = await response.json().catch(() => null)
      if (!response.ok) throw failure(body, response.status)
      const first = freshId(outlines) - 1
      run({ do: 'all', commands: (body as Outline[]).map((o) => ({ do: 'put_outline', value: { ...o, id: o.id + first } })) })
    } catch (e) {
      setProblem(e instanceof Error ? e.message : String(e))
    }
  }
  return (
    <div className="mt-2">
      <div className="flex gap-1.5">
        <label htmlFor={id} className="inline-flex h-7 cursor-pointer items-center gap-1.5 rounded-md px-2 text-soft hover:bg-well hover:text-ink" title="GeoJSON in metres east and north, or the paths of an SVG drawing, one unit a metre">
          <FileUp size={13} aria-hidden />
          From a file
        </label>
        <input id={id} type="file" accept=".geojson,.json,.svg" data-testid="outline-file" className="sr-only"
          onChange={(e) => {
            const file = e.currentTarget.files?.[0]
            e.currentTarget.value = ''
            if (file) void bring(file)
          }}
        />
        {outlines.length > 0 && (
          <Button look="quiet" onClick={() => download(scene.id, 'geojson')}>
            <Download size={13} aria-hidden />
            As GeoJSON
          </Button>
        )}
      </div>
      {problem && (
        <p role="alert" data-testid="outline-problem" className="mt-1 rounded bg-iron-wash px-2 py-1.5">
          <span className="font-medium">This file was not taken; the outlines are as they were.</span> {problem}
        </p>
      )}
    </div>
  )
}
