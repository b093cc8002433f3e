// @vitest-environment happy-dom
import { screen } from '@testing-library/react'
import { expect, test } from 'vitest'
import type { Still } from '../api/client'
import { queries } from '../state/data'
import { sampleScene } from '../state/sample'
import { shownOver } from '../ui/shown'
import { ContactSheet } from './ContactSheet'

const still = (of: Partial<Still>): Still => ({
  id: 's', job_id: 'j', shot_name: 'From the cove', seq: 1, width_px: 640, height_px: 360, samples: 16, picture: null, seconds: null,
  created_at: new Date().toISOString(), state: 'working', progress: 0, message: null, left_s: null, drafts: 0, ahead: null, ...of,
})

function sheet(stills: Still[]) {
  const scene = sampleScene([])
  queries.setQueryData(['stills', scene.id], stills)
  shownOver(scene, <ContactSheet />)
  return screen.getAllByTestId('still').map((li) => li.querySelector('p')?.textContent)
}

test('a still on its way tells its place, what is done, and honestly how long the rest takes', () => {
  const said = sheet([
    still({ id: 'a', state: 'waiting', ahead: 2 }),
    still({ id: 'b', state: 'waiting', ahead: 0 }),
    still({ id: 'c' }),
    still({ id: 'h', progress: 0.01 }),
    still({ id: 'd', progress: 0.25, left_s: 12.4 }),
    still({ id: 'e', progress: 0.5, left_s: 300 }),
    still({ id: 'f', state: 'failed', message: 'it broke' }),
  ])
  expect(said).toEqual(['2 before it', 'next in line', 'growing what is in sight', '1 %', '25 %, about 12 s left', '50 %, about 5 min left', 'it broke'])
})

test('its picture shows as it comes', () => {
  sheet([still({ id: 'd', progress: 0.25, left_s: 12, drafts: 3 })])
  expect(screen.getByTestId('still-draft').getAttribute('src')).toBe('/api/stills/d/draft?nth=3')
})
