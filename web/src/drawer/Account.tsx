import { Download } from 'lucide-react'
import type { Layer, Tally } from '../api/client'
import { Swatch } from '../profile/Swatch'
import { reasonWords } from '../sheet/TallyBar'
import { useSpecies } from '../state/data'
import { percents } from '../state/mix'
import { useScene } from '../state/scene'
import { Button } from '../ui/Button'
import { saveText } from '../ui/saveText'
import { showCount, showNumber } from '../ui/parse'
import { accountCsv } from './accountCsv'
import { useGrown } from './useGrown'

const COLUMNS = ['Layer', 'Asked', 'Placed', 'Refused by', 'Allowed ground']

/** Asked, placed and refused for every layer; where several species grow, how many of each. */
export function Account() {
  const grown = useGrown()
  const name = useScene((s) => s.scene!.document.name)
  const { data: species } = useSpecies()
  const nameOf = (id: string) => species?.find((s) => s.id === id)?.name ?? id
  const known = grown.every((g) => g.tally)
  return (
    <>
      <table className="w-full table-fixed text-left" data-testid="account">
        <colgroup>
          {['w-[24%]', 'w-[11%]', 'w-[11%]', '', 'w-[19%]'].map((w, i) => (
            <col key={COLUMNS[i]} className={w} />
          ))}
        </colgroup>
        <thead className="text-xs text-soft">
          <tr>
            {COLUMNS.map((h) => (
              <th key={h} className={`pr-3 pb-1 font-normal ${h === 'Asked' || h === 'Placed' ? 'text-right' : ''}`}>
                {h}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {grown.map(({ layer, tally }) => (
            <Rows key={layer.id} layer={layer} tally={tally} nameOf={nameOf} />
          ))}
        </tbody>
      </table>
      <Button
        look="quiet" className="mt-1 -ml-2" disabled={!known}
        title={known ? 'All of it as a table: layer, species, share asked, plants, why places stayed empty' : 'Some layers are still growing'}
        onClick={() => saveText(`${name} account.csv`, 'text/csv', accountCsv(grown, nameOf))}
      >
        <Download size={13} aria-hidden />
        Save as CSV
      </Button>
    </>
  )
}

function Rows({ layer, tally, nameOf }: { layer: Layer; tally: Tally | undefined; nameOf(id: string): string }) {
  const asked = percents(layer.mix)
  const refused = tally?.refused.filter((r) => r.count > 0).map((r) => `${reasonWords(r.reason)} ${showCount(r.count)}`)
  const number = 'pr-3 text-right font-mono text-xs whitespace-nowrap'
  return (
    <>
      <tr className="border-t border-rule">
        <td className="py-1 pr-3">
          <span className="flex items-center gap-2">
            <Swatch layerId={layer.id} />
            <span className="truncate" title={layer.name}>
              {layer.name}
            </span>
          </span>
        </td>
        <td className={number}>{tally ? showCount(tally.asked) : '…'}</td>
        <td className={number}>{tally ? showCount(tally.placed) : '…'}</td>
        <td className="pr-3 text-xs text-soft">{refused?.join(', ') || (tally ? 'nothing' : '')}</td>
        <td className="font-mono text-xs">
          {tally && (tally.ground_m2 > 0 ? `${showCount(tally.allowed_m2)} m², ${showNumber((tally.allowed_m2 / tally.ground_m2) * 100, 1)} %` : 'no ground')}
        </td>
      </tr>
      {tally && layer.mix.length > 1 && layer.mix.map((m, i) => (
        <tr key={m.species} data-testid={`account-${layer.id}-${m.species}`} className="text-soft">
          <td className="truncate pr-3 pb-0.5 pl-6 text-xs">{nameOf(m.species)}</td>
          <td className={number}>{asked[i]} %</td>
          <td className={number} data-placed={tally.per_species[i]}>{showCount(tally.per_species[i] ?? 0)}</td>
          <td className="pr-3 text-xs">{tally.placed > 0 && `${showNumber(((tally.per_species[i] ?? 0) / tally.placed) * 100, 1)} % of what stands`}</td>
          <td />
        </tr>
      ))}
    </>
  )
}
