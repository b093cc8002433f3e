import { FileUp } from 'lucide-react'
import { useId, useState } from 'react'
import { sendMesh, type ReadMesh } from '../../api/meshFile'
import { useScene } from '../../state/scene'

/** Brings a mesh file to be looked over as a species. */
export function FromFile({ onRead }: { onRead(read: ReadMesh): void }) {
  const id = useId()
  const [busy, setBusy] = useState(false)
  const bring = (file: File) => {
    setBusy(true)
    sendMesh(file)
      .then(onRead)
      .catch((e: Error) => useScene.getState().say(`\u201c${file.name}\u201d was not taken; nothing was changed. ${e.message}`))
      .finally(() => setBusy(false))
  }
  return (
    <>
      <label htmlFor={id} className="flex h-full min-h-41 cursor-pointer flex-col items-center justify-center gap-2 rounded-md border border-dashed border-rule p-3 text-center text-soft focus-within:border-thrift hover:bg-panel hover:text-ink">
        <FileUp size={18} aria-hidden />
        {busy ? 'Looking it over…' : 'From a file'}
        <span className="text-xs">OBJ, PLY or GLB, up to 256 MB</span>
      </label>
      <input id={id} type="file" accept=".obj,.ply,.glb" disabled={busy} data-testid="species-file" className="sr-only"
        onChange={(e) => {
          const file = e.currentTarget.files?.[0]
          e.currentTarget.value = ''
          if (file) bring(file)
        }}
      />
    </>
  )
}
