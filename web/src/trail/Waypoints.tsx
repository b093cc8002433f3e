import { STATIONS, useUi } from '../state/ui'
import { Hint } from '../ui/Hint'

/** The stations on their line; what lies behind is filled. */
export function Waypoints() {
  const { station, set } = useUi()
  const here = STATIONS.findIndex((s) => s.id === station)

  return (
    <nav aria-label="Stations">
      <ol className="flex items-center">
        {STATIONS.map((s, i) => (
          <li key={s.id} className="flex items-center">
            {i > 0 && <span aria-hidden className={`h-px w-5 max-xl:w-2 ${i <= here ? 'bg-sea' : 'bg-rule'}`} />}
            <Hint text={`${s.what} (${i + 1})`}>
              <button
                type="button"
                aria-current={s.id === station ? 'step' : undefined}
                onClick={() => set({ station: s.id })}
                className={`flex h-8 items-center gap-1.5 rounded-md px-1.5 max-xl:px-1 hover:bg-well ${s.id === station ? 'font-semibold' : 'text-soft'}`}
              >
                <span
                  aria-hidden
                  className={`size-2.5 rounded-full border-[1.5px] ${
                    i === here ? 'border-thrift bg-thrift ring-2 ring-thrift/25' : i < here ? 'border-sea bg-sea' : 'border-soft'
                  }`}
                />
                {s.name}
              </button>
            </Hint>
          </li>
        ))}
      </ol>
    </nav>
  )
}
