import { useEffect } from 'react'
import { useScene } from '../state/scene'
import { useUi } from '../state/ui'
import { copied, fromText, pasted } from './copied'

/** Copies the chosen layers where a row of the profile has the keyboard, and pastes layers anywhere but in a field; also between scenes. */
export function useClipboard() {
  useEffect(() => {
    const copy = (e: ClipboardEvent) => {
      const { layer, together } = useUi.getState()
      const scene = useScene.getState().scene
      if (!scene || layer === null || !document.activeElement?.closest('[data-row]')) return
      e.preventDefault()
      e.clipboardData?.setData('text/plain', JSON.stringify(copied(scene.document, [layer, ...together])))
    }
    const paste = (e: ClipboardEvent) => {
      const scene = useScene.getState().scene
      if (!scene || document.activeElement?.matches('input, textarea, select')) return
      const found = fromText(e.clipboardData?.getData('text/plain') ?? '')
      if (!found) return
      e.preventDefault()
      const { command, ids, left } = pasted(scene.document, found)
      const { run, say } = useScene.getState()
      run(command)
      // Said, or plants would stand where a mask kept them out before.
      if (left > 0) say(`${left} ${left === 1 ? 'mask looks' : 'masks look'} at something of the other scene and did not come along.`)
      useUi.getState().set({ layer: ids[0], together: [], station: 'planting' })
    }
    window.addEventListener('copy', copy)
    window.addEventListener('paste', paste)
    return () => {
      window.removeEventListener('copy', copy)
      window.removeEventListener('paste', paste)
    }
  }, [])
}
