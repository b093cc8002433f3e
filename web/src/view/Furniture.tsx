import { Hand, Info, Mountain, ScanSearch, Palette } from 'lucide-react'
import type { GroundBuffer } from '../api/buffers'
import { useLayer, useScene } from '../state/scene'
import { useHand } from '../tend/hand'
import { putDown, take } from '../tend/tool'
import { setRest, useUi } from '../state/ui'
import { useView } from '../state/view'
import { Choice } from '../ui/Choice'
import { Hint } from '../ui/Hint'
import { showCount, showNumber } from '../ui/parse'
import { useGrown } from '../drawer/useGrown'
import { contourStep } from './contours'
import { NorthArrow } from './NorthArrow'
import { ScaleBar } from './ScaleBar'
import { READINGS, showReading } from './readings'
import { ShotMenu } from './ShotMenu'
import { WAYS, type Rest, type Way } from './ways'
import type { Laid } from './useOverlay'

const CHIP = 'rounded-md border border-rule bg-panel/92 text-ink shadow-sm'

/** Shares of the plants that may be drawn. */
const SHARES = [
  { share: 1, name: 'All plants', of: 'all' },
  { share: 0.5, name: 'Half of them', of: 'half' },
  { share: 0.25, name: 'A quarter', of: 'a quarter' },
  { share: 0.1, name: 'A tenth', of: 'a tenth' },
]

/** The marks of a map: north, scale, contours, and what is under the pointer. */
export function Furniture({ ground, laid }: { ground: GroundBuffer | undefined; laid: Laid | null }) {
  const { mode, contours, probing, reading, previewShare, allAs, rest, keyed, station, layer: chosen, set } = useUi()
  const layer = useLayer(chosen)
  const tended = useHand((s) => s.layer)
  const { pointer, frame } = useView()
  const standing = useGrown().reduce((sum, g) => sum + (g.layer.visible ? (g.tally?.placed ?? 0) : 0), 0)
  const on = useScene((s) => s.scene?.document.grounds?.find((g) => g.id === pointer?.ground))
  const layers = useScene((s) => s.scene!.document.layers)
  const kept = layers.filter((l) => l.visible && l.show_as === 'stills').length
  const lighter = frame && frame.settled && (frame.asDots + frame.asCards > 0 || previewShare < 1 || allAs !== 'auto' || kept > 0)

  const laidWords =
    pointer?.laid == null || !laid || !reading || ['slope', 'altitude'].includes(reading)
      ? ''
      : `  ${READINGS[reading].name.toLowerCase()} ${showReading(reading, pointer.laid, laid.unit)}`

  return (
    <>
      <div className="pointer-events-none absolute top-3 right-20 left-3 flex flex-wrap items-center gap-2 *:pointer-events-auto">
        <Choice
          label="Looking"
          value={mode}
          options={[
            { value: 'perspective', name: 'Perspective' },
            { value: 'plan', name: 'Plan', hint: 'From straight above, north up' },
          ]}
          onChange={(m) => set({ mode: m })}
        />
        <ShotMenu />
        <Toggle on={contours} icon={Mountain} name="Contours" onClick={() => set({ contours: !contours })}
          hint={ground ? `A line every ${contourStep(ground)} m` : ''} />
        <Toggle on={probing} icon={ScanSearch} name="Ask the ground" onClick={() => set({ probing: !probing })}
          hint="Click anywhere to read why each layer grows there, or why it does not. Changes nothing." />
        <Toggle on={keyed} icon={Palette} name="Key colours" onClick={() => set({ keyed: !keyed })}
          hint="Draws every layer in its colour of the profile, to tell them apart. Stills and handoff stay as they are." />
        {station === 'planting' && layer && (
          <Toggle on={tended === layer.id} icon={Hand} name="Tend" onClick={() => (tended === layer.id ? putDown() : take(layer.id))}
            hint={`Take single plants of ${layer.name} in hand: move, turn, size, tilt, pull out, add.`} />
        )}
      </div>
      <NorthArrow headingDeg={frame?.headingDeg ?? 0} />
      <ScaleBar metresPerPx={frame?.metresPerPx ?? 0} />
      <output
        aria-label="Under the pointer"
        data-testid="readout"
        className={`${CHIP} absolute bottom-3 left-3 px-2.5 py-1 font-mono text-xs`}
      >
        {pointer
          ? `E ${showNumber(pointer.x, 1)}  N ${showNumber(-pointer.z, 1)}  altitude ${showNumber(pointer.y, 2)} m  slope ${showNumber(pointer.slope, 0)}°${laidWords}${on ? `  ${on.name}` : ''}`
          : 'Point at the ground'}
      </output>
      <div className="absolute bottom-11 left-3 flex items-center gap-1.5">
        <Hint text="Draws only a part of the plants, to see through them or to work faster. Nothing is changed: counts, stills and handoff have them all.">
          <select aria-label="Share of the plants that is drawn" data-testid="preview-share" value={previewShare} onChange={(e) => set({ previewShare: Number(e.currentTarget.value) })}
            className={`${CHIP} h-6 px-1 text-xs ${previewShare < 1 ? 'border-thrift! font-medium' : 'text-soft!'}`}>
            {SHARES.map((s) => (
              <option key={s.share} value={s.share}>
                {s.name}
              </option>
            ))}
          </select>
        </Hint>
        <Hint text="Draws the plants of all layers lightly for now. Nothing is changed: what each layer is set to comes back, and stills and handoff have every plant in full.">
          <select aria-label="How plants of all layers are drawn" data-testid="all-as" value={allAs} onChange={(e) => set({ allAs: e.currentTarget.value as Way })}
            className={`${CHIP} h-6 px-1 text-xs ${allAs !== 'auto' ? 'border-thrift! font-medium' : 'text-soft!'}`}>
            {WAYS.map((w) => (
              <option key={w.id} value={w.id}>
                {w.all}
              </option>
            ))}
          </select>
        </Hint>
        <Hint text="At rest the view goes on drawing until plants are as fine as they can be seen, edges smooth and shadows soft; without a graphics card for 30 seconds at most. Whatever you do ends it at once. A slow machine gives up, in this order: far plants' detail, sharpness while it moves, new shadows while it moves.">
          <select aria-label="How the view rests" data-testid="rests" value={rest} onChange={(e) => setRest(e.currentTarget.value as Rest)}
            className={`${CHIP} h-6 px-1 text-xs ${rest === 'refined' ? 'text-soft!' : 'border-thrift! font-medium'}`}>
            <option value="refined">Refined at rest</option>
            <option value="quick">Quick at rest</option>
            <option value="plain">Without shadows</option>
          </select>
        </Hint>
      </div>
      {lighter && (
        <Hint
          side="top"
          text="Far plants are drawn as cards and dots to keep the view quick. Stills and handoff always use every plant in full."
        >
          <p className={`${CHIP} absolute right-3 bottom-19 flex items-center gap-1.5 px-2 py-0.5 text-xs text-soft`}>
            <Info size={12} aria-hidden />
            {showCount(frame.plants)} in sight
            {frame.asCards > 0 && `, ${showCount(frame.asCards)} as cards`}
            {frame.asDots > 0 && `, ${showCount(frame.asDots)} as dots`}
            {frame.refined > 0 && (frame.refining ? ', being refined' : ', refined')}
            {previewShare < 1 && `; ${SHARES.find((s) => s.share === previewShare)!.of} of ${showCount(standing)} drawn`}
            {allAs === 'auto' && kept > 0 && `; ${kept} ${kept === 1 ? 'layer' : 'layers'} in stills only`}
            {allAs !== 'auto' && `; all as ${WAYS.find((w) => w.id === allAs)!.all.toLowerCase()}`}
          </p>
        </Hint>
      )}
    </>
  )
}

interface ToggleProps {
  on: boolean
  icon: typeof Info
  name: string
  hint: string
  onClick(): void
}

function Toggle({ on, icon: Icon, name, hint, onClick }: ToggleProps) {
  return (
    <Hint text={hint}>
      <button
        type="button"
        aria-pressed={on}
        onClick={onClick}
        className={`${CHIP} flex h-7 items-center gap-1.5 px-2.5 hover:bg-well ${on ? 'border-thrift! font-medium' : 'text-soft!'}`}
      >
        <Icon size={13} aria-hidden className={on ? 'text-thrift' : ''} />
        {name}
      </button>
    </Hint>
  )
}
