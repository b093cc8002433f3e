// @vitest-environment happy-dom
import { screen } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { beforeEach, expect, test, vi } from 'vitest'
import type { Layer } from '../api/client'
import { queries } from '../state/data'
import { sampleLayer, sampleScene } from '../state/sample'
import { useScene } from '../state/scene'
import { shown } from '../ui/shown'
import { AmountFields } from './AmountFields'

const editLayer = vi.fn()
beforeEach(() => vi.clearAllMocks())

function fields(amount: Layer['amount'], told: Record<string, number>) {
  const layer = sampleLayer(1, 'Marram', { amount })
  const scene = sampleScene([layer])
  scene.layers[0].plants_key = 'grown'
  queries.setQueryData(['plants', 1, 'grown'], { count: 9, tally: { amount: told } })
  useScene.setState({ scene, editLayer })
  shown(<AmountFields layer={layer} />)
  const value = (id: string) => screen.getByTestId<HTMLInputElement>(`amount-${id}`).value
  const set = async (id: string, text: string) => {
    const user = userEvent.setup()
    await user.click(screen.getByTestId(`amount-${id}`))
    await user.keyboard(`${text}{Enter}`)
    return editLayer.mock.lastCall![1]
  }
  return { value, set }
}

const told = { per_m2: 2.4, total: 9475, cover: 0.31, spacing_m: 0.645 }

test('one amount is shown in four units: the one that is set, and what it comes to in the others', () => {
  const { value } = fields({ unit: 'per_m2', value: 2.4 }, told)
  expect(['per-m2', 'total', 'cover', 'spacing'].map(value)).toEqual(['2.4', '9475', '31', '0.645'])
})

test('whichever is typed becomes the one that is held', async () => {
  const { set } = fields({ unit: 'per_m2', value: 2.4 }, told)
  expect(await set('total', '5000')).toEqual({ set: 'amount', value: { unit: 'total', value: 5000 } })
  expect(await set('cover', '40')).toEqual({ set: 'amount', value: { unit: 'cover', value: 0.4 } })
  expect(await set('spacing', '50 cm')).toEqual({ set: 'amount', value: { unit: 'spacing', value_m: 0.5 } })
})

test('few plants are counted on a larger area, and what is typed there is meant by it', async () => {
  const { value, set } = fields({ unit: 'per_m2', value: 0.0004 }, { ...told, per_m2: 0.0004 })
  expect(screen.getByLabelText<HTMLSelectElement>('Area the amount is counted on').selectedOptions[0].text).toBe('hectare')
  expect(value('per-m2')).toBe('4')
  expect(await set('per-m2', '6')).toEqual({ set: 'amount', value: { unit: 'per_m2', value: 0.0006 } })
})
