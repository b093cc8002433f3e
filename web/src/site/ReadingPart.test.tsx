// @vitest-environment happy-dom
import { screen } from '@testing-library/react'
import { expect, test } from 'vitest'
import { sampleScene } from '../state/sample'
import { useUi } from '../state/ui'
import { shownOver } from '../ui/shown'
import { READINGS } from '../view/readings'
import { ReadingPart } from './ReadingPart'

test('every quantity is offered; one is laid over the ground, and taken off again', async () => {
  const user = shownOver(sampleScene([]), <ReadingPart />)
  expect(screen.getAllByRole('button', { pressed: false })).toHaveLength(Object.keys(READINGS).length)
  await user.click(screen.getByTestId('read-openness'))
  expect(useUi.getState().reading).toBe('openness')
  expect(screen.getByTestId('read-openness').getAttribute('aria-pressed')).toBe('true')
  await user.click(screen.getByTestId('read-openness'))
  expect(useUi.getState().reading).toBeNull()
})
