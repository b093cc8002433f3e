import { Box, FileJson, Table2, type LucideIcon } from 'lucide-react'
import { useQueries } from '@tanstack/react-query'
import type { PlantsBuffer } from '../api/buffers'
import { useState, type ReactNode } from 'react'
import { grownQuery, queries, useSpecies } from '../state/data'
import { useScene } from '../state/scene'
import { Button } from '../ui/Button'
import { Part } from '../ui/Part'
import { showCount, showNumber, showTriangles } from '../ui/parse'
import { download } from './download'
import { meanTriangles } from '../state/mix'

/** Pixels along the longer side of the land. */
const PICTURES = [0, 1024, 2048, 4096]

/** Files for other programs, with how heavy each will be. */
export function HandoffSheet() {
  const scene = useScene((s) => s.scene!)
  const [pixels, setPixels] = useState(1024)
  const side = Math.max(...(queries.getQueryData<{ size_m: [number, number] }>(['ground', scene.ground_key])?.size_m ?? [100]))
  const { data: species } = useSpecies()
  const grown = useQueries({
    queries: scene.layers.map((l) => grownQuery(l.id, l.plants_key)),
  })
  const shown = scene.document.layers
    .map((layer, i) => ({ layer, count: (grown[i]?.data as PlantsBuffer | undefined)?.count ?? 0 }))
    .filter((l) => l.layer.visible)
  const plants = shown.reduce((sum, l) => sum + l.count, 0)
  const triangles = shown.reduce(
    (sum, l) => sum + l.count * meanTriangles(l.layer, species),
    0,
  )
  const hidden = scene.document.layers.length - shown.length

  return (
    <>
      <header className="border-b border-rule px-4 py-3">
        <h2 className="text-sm font-semibold">Handoff</h2>
        <p className="mt-1 text-soft">
          {showCount(plants)} plants of {shown.length} layers, {showTriangles(triangles)} once every
          plant is drawn.{hidden > 0 && ` ${hidden} hidden ${hidden === 1 ? 'layer is' : 'layers are'} left out.`}
        </p>
      </header>
      <File
        icon={Box}
        title="GLB"
        size={`about ${showNumber((plants * 40 + pixels * pixels * 5) / 1e6 + 4, 0)} MB`}
        text="Binary glTF 2.0. Each form once, its plants as instances (EXT_mesh_gpu_instancing), colours at the vertices; buildings in what they are made of, and the land in a picture of it from above with paths, beds and relief. Metres, Y up."
        action="Download GLB"
        onClick={() => download(scene.id, 'glb', `?ground_px=${pixels}`)}
      >
        <label className="mb-2.5 flex items-center gap-2 text-xs text-soft">
          Picture of the land
          <select data-testid="ground-px" value={pixels} onChange={(e) => setPixels(Number(e.currentTarget.value))} className="h-7 rounded-md border border-rule bg-panel px-2 text-[13px] text-ink">
            {PICTURES.map((px) => (
              <option key={px} value={px}>
                {px === 0 ? 'none: colours at corners alone' : `${showCount(px)} pixels: ${showNumber((100 * side) / px, 0)} cm each`}
              </option>
            ))}
          </select>
        </label>
      </File>
      <File
        icon={Table2}
        title="Plant table"
        size={`about ${showNumber((plants * 128) / 1e6, 0)} MB`}
        text="CSV with one row a plant: layer, species, form, id, place, rotation, size, turn, tint."
        action="Download CSV"
        onClick={() => download(scene.id, 'csv')}
      />
      <File
        icon={FileJson}
        title="Scene file"
        size="a few kB"
        text="The whole document as JSON, for the command line: rookery grow, measure, probe, render and export read it."
        action="Download scene"
        onClick={() => download(scene.id, 'json')}
      />
    </>
  )
}

interface FileProps {
  icon: LucideIcon
  title: string
  size: string
  text: string
  action: string
  onClick(): void
  /** Settings of the file. */
  children?: ReactNode
}

function File({ icon: Icon, title, size, text, action, onClick, children }: FileProps) {
  return (
    <Part title={title} summary={size}>
      <p className="mb-2.5 text-soft">{text}</p>
      {children}
      <Button onClick={onClick}>
        <Icon size={14} aria-hidden />
        {action}
      </Button>
    </Part>
  )
}
