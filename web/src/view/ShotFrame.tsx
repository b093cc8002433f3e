import { useEffect } from 'react'
import { useShot } from '../state/scene'
import { useUi } from '../state/ui'
import { useView } from '../state/view'
import { atShot, lensOf } from '../shots/through'

/** What is left of a pixel by rounding is no strip. */
const HAIR = 0.002

/** The edges of the picture a shot takes: in Shots always, elsewhere while one looks through the shot. */
export function ShotFrame() {
  const shot = useShot(useUi((s) => s.shot))
  const inShots = useUi((s) => s.station === 'shots')
  const plan = useUi((s) => s.mode === 'plan')
  const stage = useView((s) => s.stage)
  // The camera moved: what is read of the stage below is new.
  useView((s) => s.frame?.number)
  const lens = shot && lensOf(shot)
  const key = lens && `${lens.viewDeg} ${lens.aspect}`
  useEffect(() => {
    if (inShots && lens) stage?.setLens(lens)
  }, [inShots, stage, key]) // eslint-disable-line react-hooks/exhaustive-deps

  if (!stage || !shot || !lens || plan) return null
  const there = atShot(shot, stage.place())
  const share = stage.frameOf(lens)
  if (!share || (!inShots && !there)) return null
  const [x, y] = [(1 - share.across) / 2, (1 - share.up) / 2]
  if (x < -HAIR || y < -HAIR) return null
  const inset = { left: percent(x), right: percent(x), top: percent(y), bottom: percent(y) }
  return (
    <div className="pointer-events-none absolute inset-0 overflow-hidden" data-testid="shot-frame" data-across={share.across.toFixed(3)} data-up={share.up.toFixed(3)}>
      {/* Elsewhere than in Shots it is no more than a hint: what lies beside it is worked on as well. */}
      <div className={`absolute border ${inShots ? 'border-white/80 shadow-[0_0_0_200vmax_rgb(22_20_16/0.38)]' : 'border-dashed border-white/45'}`} style={inset}>
        {inShots && (
          <p className="absolute bottom-1.5 left-1/2 flex -translate-x-1/2 items-center gap-2 rounded-md bg-panel/92 px-2 py-0.5 text-xs whitespace-nowrap text-ink shadow-sm">
            {there ? shot.name : `Moved away from ${shot.name}`}
            {!there && (
              <button
                type="button"
                className="pointer-events-auto font-medium text-thrift-deep hover:underline"
                onClick={() => stage.look(shot, lens)}
              >
                Go back
              </button>
            )}
          </p>
        )}
      </div>
    </div>
  )
}

const percent = (share: number) => `${Math.max(0, share) * 100}%`
