// @vitest-environment happy-dom
import { screen } from '@testing-library/react'
import { expect, test } from 'vitest'
import type { Tally } from '../api/client'
import { queries } from '../state/data'
import { sampleLayer, sampleScene } from '../state/sample'
import { shownOver } from '../ui/shown'
import { Notes } from './Notes'

test('of a mix the notes tell how many of each species stand; of one species alone there is nothing to part', () => {
  const mixed = sampleLayer(1, 'Turf', { mix: [{ species: 'fescue', share: 0.7 }, { species: 'sedge', share: 0.3 }] })
  const scene = sampleScene([mixed, sampleLayer(2, 'Gorse')])
  scene.layers[0].plants_key = 'grown'
  scene.layers[1].plants_key = 'grown too'
  queries.setQueryData(['plants', 1, 'grown'], { count: 1290, tally: { per_species: [1263, 27], refused: [] } as unknown as Tally })
  queries.setQueryData(['plants', 2, 'grown too'], { count: 5, tally: { per_species: [5], refused: [] } as unknown as Tally })
  shownOver(scene, <Notes notes={[]} />)
  expect(screen.getByTestId('species-of-1').textContent!.replace(/\s/g, ' ')).toBe('fescue 1 263, sedge 27')
  expect(screen.queryByTestId('species-of-2')).toBeNull()
})
