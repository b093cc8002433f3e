import { useEffect } from 'react'
import { useClock } from '../state/clock'
import { useScene } from '../state/scene'
import { STATIONS, inTime, useUi, type Side } from '../state/ui'

/** Folds a side of the page, or opens it again. */
function turn(side: Side) {
  const { folded, fold, unfold } = useUi.getState()
  if (folded[side]) unfold(side)
  else fold(side)
}

/** Keys that work everywhere but in a field: 1 to 6 for the stations, undo, redo, search, P and C in the view, + and - for a brush. */
export function useKeys() {
  useEffect(() => {
    const pressed = (e: KeyboardEvent) => {
      const { set, mode, contours, sculpting, painting } = useUi.getState()
      const command = e.ctrlKey || e.metaKey
      const key = e.key.toLowerCase()
      if (command && key === 'k') {
        e.preventDefault()
        set({ searching: true })
        return
      }
      const field = e.target instanceof HTMLElement && e.target.matches('input:not([type=range]), textarea, select') ? e.target : null
      // In a number whose value was taken, and in a list that is chosen from, undo is that of the scene.
      const undoes = command && (key === 'z' || key === 'y') && (field?.dataset.settled === 'true' || field?.matches('select'))
      if (field && !undoes) return
      if (command && key === 'z') {
        e.preventDefault()
        if (e.shiftKey) useScene.getState().redo()
        else useScene.getState().undo()
      } else if (command && key === 'y') {
        e.preventDefault()
        useScene.getState().redo()
      } else if (!command && !e.altKey) {
        const station = STATIONS[Number(e.key) - 1]
        const button = e.target instanceof HTMLElement && e.target.closest('button, [role=slider]')
        if (station) set({ station: station.id })
        else if (e.key === ' ' && inTime(useUi.getState().station) && !button) {
          e.preventDefault()
          useClock.setState((c) => ({ playing: !c.playing }))
        }
        else if (key === 'p') set({ mode: mode === 'plan' ? 'perspective' : 'plan' })
        else if (key === 'c') set({ contours: !contours })
        else if (e.key === '?') set({ keys: true })
        else if (e.key === '[') turn('profile')
        else if (e.key === ']') turn('sheet')
        else if (e.key === 'Escape' && painting) set({ painting: null })
        else if (e.key === 'Escape' && sculpting) set({ sculpting: null })
        else if (painting && (e.key === '+' || e.key === '-')) {
          const radius = painting.radius_m * (e.key === '+' ? 1.2 : 1 / 1.2)
          set({ painting: { ...painting, radius_m: Number(Math.min(1000, Math.max(0.02, radius)).toPrecision(3)) } })
        }
        else if (sculpting && (e.key === '+' || e.key === '-')) {
          const radius = sculpting.radius_m * (e.key === '+' ? 1.2 : 1 / 1.2)
          set({ sculpting: { ...sculpting, radius_m: Number(Math.min(1000, Math.max(0.1, radius)).toPrecision(3)) } })
        }
      }
    }
    window.addEventListener('keydown', pressed)
    return () => window.removeEventListener('keydown', pressed)
  }, [])
}
