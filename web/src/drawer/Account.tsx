import { Swatch } from '../profile/Swatch'
import { reasonWords } from '../sheet/TallyBar'
import { showCount, showNumber } from '../ui/parse'
import { useGrown } from './useGrown'

/** Asked, placed and refused for every layer. */
export function Account() {
  const grown = useGrown()
  return (
    <table className="w-full text-left">
      <thead className="text-xs text-soft">
        <tr>
          {['Layer', 'Asked', 'Placed', 'Refused by', 'Allowed ground'].map((h) => (
            <th key={h} className="pb-1 font-normal">
              {h}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {grown.map(({ layer, tally }) => (
          <tr key={layer.id} className="border-t border-rule">
            <td className="py-1">
              <span className="flex items-center gap-2">
                <Swatch layerId={layer.id} />
                {layer.name}
              </span>
            </td>
            <td className="font-mono text-xs">{tally ? showCount(tally.asked) : '…'}</td>
            <td className="font-mono text-xs">{tally ? showCount(tally.placed) : '…'}</td>
            <td className="text-xs text-soft">
              {tally?.refused
                .filter((r) => r.count > 0)
                .map((r) => `${reasonWords(r.reason)} ${showCount(r.count)}`)
                .join(', ') || 'nothing'}
            </td>
            <td className="font-mono text-xs">
              {tally && (tally.ground_m2 > 0 ? `${showCount(tally.allowed_m2)} m², ${showNumber((tally.allowed_m2 / tally.ground_m2) * 100, 1)} %` : 'no ground')}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}
