// @vitest-environment happy-dom
import { screen } from '@testing-library/react'
import { expect, test } from 'vitest'
import type { Tally } from '../api/client'
import { queries } from '../state/data'
import { sampleLayer, sampleScene } from '../state/sample'
import { useScene } from '../state/scene'
import { shown } from '../ui/shown'
import { Budget } from './Budget'

function budget(placed: number[], cap: number | null = null, cut = 0) {
  const layers = placed.map((_, i) => sampleLayer(i + 1, `Layer ${i + 1}`))
  const scene = sampleScene(layers)
  Object.assign(scene.document, { cap })
  scene.layers.forEach((layer, i) => {
    layer.plants_key = `grown ${i}`
    const refused = cut > 0 && i === placed.length - 1 ? [{ reason: { rule: 'cap' }, count: cut }] : []
    const tally = { placed: placed[i], cap: refused.length > 0 ? placed[i] : 1_000_000, refused } as unknown as Tally
    queries.setQueryData(['plants', layer.id, layer.plants_key], { count: placed[i], tally })
  })
  useScene.setState({ scene })
  shown(<Budget />)
  return screen.getByTestId('budget')
}

test('plants of all layers are counted against what is worked on with ease', () => {
  const button = budget([60_000, 40_000])
  expect(button.textContent).toContain('10 %')
  expect(button.textContent).toContain('100\u202f000 plants of 1\u202f000\u202f000')
})

test('a ceiling of the scene is what they are counted against', () => {
  const button = budget([60_000, 40_000], 200_000)
  expect(button.textContent).toContain('50 %')
})

test('where the ceiling cut plants away the budget says that it is full, not how full', () => {
  const button = budget([60_000, 40_000], 100_000, 500)
  expect(button.textContent).toContain('full')
  expect(button.textContent).toContain('the ceiling of the scene is reached')
  expect(button.textContent).not.toContain('100 %')
})
