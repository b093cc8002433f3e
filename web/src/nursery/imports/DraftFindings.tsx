import { TriangleAlert } from 'lucide-react'
import type { ReadMesh } from '../../api/meshFile'
import { findingWords } from '../../site/obstacles/findings'
import { Button } from '../../ui/Button'
import { oddities, type Draft, type Measured, type Plan } from './draft'

interface DraftFindingsProps {
  read: ReadMesh
  draft: Draft
  measured: Measured
  change(part: Partial<Plan>): void
}

/** What is odd about a file, each with its fix. Open edges are no fault of leaves. */
export function DraftFindings({ read, draft, measured, change }: DraftFindingsProps) {
  const { placing } = draft.plan
  const of = read.view.inspection.findings
    .filter((f) => f.finding !== 'open' || !draft.plan.thin)
    .filter((f) => f.finding !== 'far_off' || !placing.recentre)
    .map((f) => {
      const { text, fix } = findingWords(f)
      return { id: f.finding as string, text, fix: fix && { name: fix.name, change: { placing: { ...placing, ...fix.change } } as Partial<Plan> } }
    })
  const all = [...of, ...oddities(draft, measured)]
  if (all.length === 0) return <p className="text-fern">Nothing odd was found.</p>
  return (
    <ul aria-label="Findings" data-testid="import-findings" className="flex flex-col gap-1.5">
      {all.map((f) => (
        <li key={f.id} className="flex items-start gap-1.5 rounded bg-lichen-wash px-2 py-1">
          <TriangleAlert size={13} className="mt-0.5 shrink-0 text-lichen" aria-hidden />
          <span className="flex-1">{f.text}</span>
          {f.fix && (
            <Button look="quiet" className="h-5!" onClick={() => change(f.fix!.change)}>
              {f.fix.name}
            </Button>
          )}
        </li>
      ))}
    </ul>
  )
}
