import { useFlow } from '../state/data'
import { useUi } from '../state/ui'
import { Button } from '../ui/Button'
import { rampCss } from '../view/ramps'
import { SHOWN_AT_M } from '../view/stage/streamlines'

/** How hills and obstacles change the wind: lines over the land, with what their colours mean. */
export function WindOverLand() {
  const { windShown, set } = useUi()
  const { data: flow, isFetching, error } = useFlow()
  return (
    <div className="mt-3">
      <Button look={windShown ? 'primary' : 'plain'} aria-pressed={windShown} data-testid="show-wind" onClick={() => set({ windShown: !windShown })}>
        {windShown ? 'Take the lines off the land' : 'Show it over the land'}
      </Button>
      {error && <p className="mt-1 text-xs text-iron">{error.message}</p>}
      {isFetching && !flow && <p className="mt-1 text-xs text-soft">Working out how it flows over the land…</p>}
      {windShown && flow && (
        <figure className="mt-2" data-testid="wind-legend">
          <div className="h-2 rounded-sm" style={{ background: rampCss('about_zero') }} aria-hidden />
          <div className="mt-0.5 flex justify-between font-mono text-[10px] text-soft">
            <span>0</span>
            <span>1</span>
            <span>2 times</span>
          </div>
          <figcaption className="text-xs text-soft">
            {SHOWN_AT_M} m above the ground, against the wind over level land: brown lies in the lee, blue-green is exposed. What grows plays no part in it.
          </figcaption>
        </figure>
      )}
    </div>
  )
}
