import { QueryClientProvider } from '@tanstack/react-query'
import { cleanup, render } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { Tooltip } from 'radix-ui'
import type { ReactNode } from 'react'
import { afterEach } from 'vitest'
import type { SceneView } from '../api/client'
import { queries } from '../state/data'
import { useHand } from '../tend/hand'
import { useScene } from '../state/scene'
import { useUi } from '../state/ui'
import { useView } from '../state/view'

const [scene, ui, view, hand] = [useScene.getState(), useUi.getState(), useView.getState(), useHand.getState()]

// Each test begins with a page that was just opened.
afterEach(() => {
  cleanup()
  queries.clear()
  useScene.setState(scene, true)
  useUi.setState(ui, true)
  useView.setState(view, true)
  useHand.setState(hand, true)
})

/** For tests: shows a part of the page by itself, as it stands in the whole. */
export const shown = (part: ReactNode) =>
  render(part, {
    wrapper: ({ children }) => (
      <QueryClientProvider client={queries}>
        <Tooltip.Provider>{children}</Tooltip.Provider>
      </QueryClientProvider>
    ),
  })

/** The same over a scene; `actions` stand in for those of the store. Gives one who clicks and types. */
export function shownOver(scene: SceneView, part: ReactNode, actions: Partial<ReturnType<typeof useScene.getState>> = {}) {
  useScene.setState({ scene, ...actions })
  shown(part)
  return userEvent.setup()
}
