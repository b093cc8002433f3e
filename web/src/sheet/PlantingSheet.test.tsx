// @vitest-environment happy-dom
import { screen } from '@testing-library/react'
import { expect, test } from 'vitest'
import { useScene } from '../state/scene'
import { useUi } from '../state/ui'
import { shown } from '../ui/shown'
import { PlantingSheet } from './PlantingSheet'

function said(layers: { id: number }[], chosen: number | null, waiting: number): string {
  useScene.setState({ scene: { document: { layers } } as never, saving: { state: 'saved', waiting, since: 0 } as never })
  useUi.setState({ layer: chosen })
  const { unmount } = shown(<PlantingSheet />)
  const text = screen.getByRole('status').textContent!
  unmount()
  return text
}

/** Broke: the sheet was that of an empty scene until a layer that was just added was saved, and after an undo had taken it back. */
test('without its layer the sheet says what it waits for, or what to do', () => {
  expect(said([{ id: 1 }], 5, 1)).toBe('The layer is being added…')
  expect(said([{ id: 1 }], 5, 0)).toBe('Choose a layer in the profile on the left, or add one.')
  expect(said([], null, 0)).toContain('Add a layer in the profile on the left; it starts sparse')
})
