// @vitest-environment happy-dom
import { screen } from '@testing-library/react'
import { expect, test } from 'vitest'
import type { Tally } from '../api/client'
import { queries } from '../state/data'
import { sampleLayer, sampleScene } from '../state/sample'
import { shownOver } from '../ui/shown'
import { Account } from './Account'
import { accountCsv } from './accountCsv'

const tally = {
  asked: 100, placed: 90, per_species: [63, 27], candidates: 100, cap: 1000, allowed_m2: 50.128, ground_m2: 200,
  refused: [{ reason: { rule: 'own_kind' }, count: 10 }],
} as unknown as Tally
const mixed = sampleLayer(1, 'Turf, "two-toned"', { mix: [{ species: 'fescue', share: 0.7 }, { species: 'sedge', share: 0.3 }] })

test('of a mix the true count of each species stands beside the share that was asked', () => {
  const scene = sampleScene([mixed, sampleLayer(2, 'Gorse')])
  scene.layers[0].plants_key = 'grown'
  queries.setQueryData(['plants', 1, 'grown'], { count: 90, tally })
  shownOver(scene, <Account />)
  const row = screen.getByTestId('account-1-sedge')
  expect([...row.children].slice(1, 4).map((c) => c.textContent)).toEqual(['30 %', '27', '30 % of what stands'])
  // Of a layer that has not grown nothing is said, and no table is saved with holes in it.
  expect(screen.queryByTestId('account-2-marram')).toBeNull()
  expect(screen.getByText('Save as CSV').closest('button')!.disabled).toBe(true)
})

test('the table keeps names with commas and quotes in one field (RFC 4180)', () => {
  const csv = accountCsv([{ layer: mixed, tally, problem: undefined }], (id) => id)
  expect(csv.split('\r\n')).toEqual([
    'layer,species,share_percent,asked,placed,placed_of_species,allowed_m2,ground_m2,refused',
    '"Turf, ""two-toned""",fescue,70,100,90,63,50.13,200,too near its own kind: 10',
    '"Turf, ""two-toned""",sedge,30,100,90,27,50.13,200,too near its own kind: 10',
    '',
  ])
})
