import { X } from 'lucide-react'
import { useState } from 'react'

const MOST = 12

/** Words a species is found by; each can be taken off, and more added. */
export function Tags({ tags, onChange }: { tags: string[]; onChange(tags: string[]): void }) {
  const [fresh, setFresh] = useState('')
  const add = () => {
    const word = fresh.trim().toLowerCase().slice(0, 30)
    if (word && !tags.includes(word)) onChange([...tags, word])
    setFresh('')
  }
  return (
    <ul aria-label="Tags" className="mt-1 flex flex-wrap items-center gap-1">
      {tags.map((tag) => (
        <li key={tag} className="inline-flex h-5 items-center gap-0.5 rounded-full border border-rule pr-0.5 pl-2 text-xs text-soft">
          {tag}
          <button type="button" aria-label={`Take off the tag ${tag}`} className="rounded-full p-0.5 hover:bg-well hover:text-ink" onClick={() => onChange(tags.filter((t) => t !== tag))}>
            <X size={10} aria-hidden />
          </button>
        </li>
      ))}
      {tags.length < MOST && (
        <li>
          <input
            aria-label="Add a tag" placeholder="add a tag" value={fresh} data-testid="add-tag"
            onChange={(e) => setFresh(e.currentTarget.value)}
            onBlur={add}
            onKeyDown={(e) => {
              e.stopPropagation()
              if (e.key === 'Enter') add()
            }}
            className="h-5 w-18 rounded-full border border-dashed border-rule bg-transparent px-2 text-xs outline-none focus:border-soft"
          />
        </li>
      )}
    </ul>
  )
}
