import { useHand } from '../tend/hand'
import { TendPart } from '../tend/TendPart'
import { useLayer, useScene } from '../state/scene'
import { useUi } from '../state/ui'
import { Button } from '../ui/Button'
import { KeepsClear } from './clearance/KeepsClear'
import { HowItStands } from './HowItStands'
import { HowMuch } from './HowMuch'
import { KeptRow } from './together/KeptRow'
import { ShareRow } from './together/ShareRow'
import { TogetherRow } from './together/TogetherRow'
import { Sentence } from './Sentence'
import { WhatGrows } from './WhatGrows'
import { Where } from './Where'

/** A layer's sheet: its sentence, then its parts in the order people think. */
export function PlantingSheet() {
  const chosen = useUi((s) => s.layer)
  const layer = useLayer(chosen)
  const waiting = useScene((s) => s.saving.waiting)
  const layers = useScene((s) => s.scene!.document.layers)
  const { editLayer } = useScene.getState()
  // What is worked with comes first.
  const tending = useHand((s) => s.layer !== null && s.layer === layer?.id)
  if (!layer) {
    return (
      <div className="px-4 py-4">
        <h2 className="mb-1 font-semibold">Planting</h2>
        <p className="text-soft" role="status">
          {chosen !== null && waiting > 0
            ? 'The layer is being added…'
            : layers.length > 0
              ? 'Choose a layer in the profile on the left, or add one.'
              : 'Here layers of plants and rocks are told where to grow. Add a layer in the profile on the left; it starts sparse, so that you see what it does before you raise it.'}
        </p>
      </div>
    )
  }
  return (
    <>
      <header className="border-b border-rule px-4 pt-3 pb-3.5">
        <div className="mb-1.5 flex items-baseline justify-between pr-6">
          <h2 className="text-sm font-semibold">{layer.name}</h2>
          <span className="text-xs text-soft">
            layer {layers.indexOf(layer) + 1} of {layers.length}
          </span>
        </div>
        <Sentence layer={layer} />
        <TogetherRow layer={layer} />
        <ShareRow layer={layer} />
        <KeptRow layer={layer} />
        {layer.locked && (
          <p className="mt-2 flex items-center justify-between rounded-md bg-lichen-wash px-2 py-1">
            This layer is locked.
            <Button look="quiet" onClick={() => editLayer(layer.id, { set: 'locked', value: false })}>
              Unlock
            </Button>
          </p>
        )}
      </header>
      <fieldset disabled={layer.locked} className={`min-w-0 ${layer.locked ? 'opacity-60' : ''}`}>
        {tending && <TendPart layer={layer} />}
        <WhatGrows layer={layer} />
        <HowMuch layer={layer} />
        <Where layer={layer} />
        <KeepsClear layer={layer} />
        <HowItStands layer={layer} />
        {!tending && <TendPart layer={layer} />}
      </fieldset>
    </>
  )
}
