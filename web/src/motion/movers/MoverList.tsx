import { Eye, EyeOff, Trash2 } from 'lucide-react'
import { useEffect, useRef, type ReactNode } from 'react'
import { useUi } from '../../state/ui'
import { Button } from '../../ui/Button'
import { IconButton } from '../../ui/IconButton'
import { NumberField } from '../../ui/NumberField'
import { TextField } from '../../ui/TextField'
import { showNumber } from '../../ui/parse'
import { nodesOf, withNodes, type Course } from './movers'

interface RowProps {
  what: 'blower' | 'body'
  id: number
  name: string
  word: string
  on: boolean
  onName(name: string): void
  onToggle(): void
  onDelete(): void
  children: ReactNode
}

/** One blower or body of a list; its settings below it when it is chosen. */
export function MoverRow({ what, id, name, word, on, onName, onToggle, onDelete, children }: RowProps) {
  const { chosen, set } = useUi()
  const open = chosen?.what === what && chosen.id === id
  const row = useRef<HTMLLIElement>(null)
  useEffect(() => {
    if (open) row.current?.scrollIntoView({ block: 'nearest' })
  }, [open])
  return (
    <li ref={row} className={`rounded-md ${open ? 'bg-thrift-wash' : 'hover:bg-well'}`}>
      <div className="flex h-8 items-center gap-1 pl-1">
        <button type="button" aria-pressed={open} aria-label={`${open ? 'Close' : 'Open'} ${name}`} className="w-20 shrink-0 truncate text-left text-xs text-soft" onClick={() => set({ chosen: open ? null : { what, id } })}>
          {word}
        </button>
        <TextField label={`Name of the ${what}`} className="h-6 flex-1" value={name} onCommit={onName} />
        <IconButton icon={on ? Eye : EyeOff} label={what === 'blower' ? (on ? `Turn ${name} off` : `Turn ${name} on`) : on ? `Hide ${name}` : `Show ${name}`} onClick={onToggle} />
        <IconButton icon={Trash2} label={`Delete ${name}`} onClick={onDelete} />
      </div>
      {open && <div className="flex flex-col gap-2 px-2 pb-2">{children}</div>}
    </li>
  )
}

/** Where something is over time: how high, and along which path. */
export function CourseFields({ of, id, course, onChange }: { of: 'blower' | 'body'; id: number; course: Course; onChange(course: Course, gesture?: string): void }) {
  const nodes = nodesOf(course)
  const set = useUi((s) => s.set)
  return (
    <>
      <p className="text-xs text-soft" data-testid="course-said">
        {course.kind === 'still' ? 'It stays where it is.' : `A path of ${nodes.length} nodes, from ${showNumber(nodes[0].time_s, 1)} s to ${showNumber(nodes.at(-1)!.time_s, 1)} s.`}{' '}
        Drag its nodes in the view{course.kind === 'path' && ', and their times below it'}.
      </p>
      <div className="flex items-end gap-1.5">
        <div className="w-28">
          <NumberField
            label="Above ground" testId="course-over" unit="m" value={nodes[0].over_m} min={0} max={1000} step={0.1} digits={2} fallback={of === 'blower' ? 3 : 0}
            hint={of === 'blower' ? 'How high it is above the ground, all along its way.' : 'How high its lowest point is above the ground. At 0 it rolls.'}
            onChange={(over_m, g) => onChange(withNodes(course, (list) => list.map((n) => ({ ...n, over_m }))), g)}
          />
        </div>
        <Button data-testid="draw-course" title="Click node after node on the ground" onClick={() => set({ drawing: { what: 'course', of, id } })}>
          {course.kind === 'still' ? 'Draw a path' : 'Draw it anew'}
        </Button>
        {course.kind === 'path' && <Button look="quiet" onClick={() => onChange(withNodes(course, (list) => list.slice(0, 1)))}>Let it stand</Button>}
      </div>
    </>
  )
}

/** What of the layers something reaches, in words. */
export function reachedWords(names: string[], verb: string): string {
  if (names.length === 0) return `It ${verb} nothing that grows.`
  const shown = names.slice(0, 3).join(', ')
  return `It ${verb} ${shown}${names.length > 3 ? ` and ${names.length - 3} more` : ''}.`
}
