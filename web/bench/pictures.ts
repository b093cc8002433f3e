/*
 * What a picture costs the processor beside drawing, while a camera walks over a meadow: `npm run bench`. Three layers, together
 * three plants a square metre, half a metre tall; a picture 800 pixels high.
 */
import { PerspectiveCamera } from 'three'
import type { PlantsBuffer } from '../src/api/buffers'
import { inBlocks, type Blocks } from '../src/view/stage/blocks'
import { assignDetail } from '../src/view/stage/detail'
import { PlantLayer } from '../src/view/stage/plantLayer'
import { sampleLook } from '../src/view/stage/sample'

const LAYERS = 3

function meadow(count: number, side: number): PlantsBuffer {
  const positions = new Float32Array(count * 3)
  for (let i = 0; i < count * 3; i++) positions[i] = i % 3 === 1 ? 0 : (Math.random() - 0.5) * side
  return {
    count, tally: {} as PlantsBuffer['tally'], positions, sizes: new Float32Array(count).map(() => 0.6 + Math.random() * 0.8),
    rotations: new Int16Array(count * 4), forms: new Uint16Array(count), tints: new Uint16Array(count),
  }
}

function times(runs: number, what: (run: number) => void): string {
  const taken: number[] = []
  for (let run = 0; run < runs; run++) {
    const start = performance.now()
    what(run)
    taken.push(performance.now() - start)
  }
  taken.sort((a, b) => a - b)
  return `median ${taken[runs >> 1].toFixed(1)} ms, 95th percentile ${taken[Math.floor(runs * 0.95)].toFixed(1)} ms`
}

for (const millions of [1, 5]) {
  const count = Math.round((millions * 1e6) / LAYERS)
  const side = Math.sqrt((millions * 1e6) / 3)
  const plants = Array.from({ length: LAYERS }, () => meadow(count, side))
  console.log(`${millions} M plants on ${side.toFixed(0)} x ${side.toFixed(0)} m`)
  let blocks: Blocks | undefined
  console.log(`  a third of them laid out in blocks: ${times(15, () => void (blocks = inBlocks(plants[0], blocks)))}`)
  const layers = plants.map((own) => {
    const layer = new PlantLayer(sampleLook(0.5, 0.3))
    layer.set(own)
    return layer
  })
  const camera = new PerspectiveCamera(42, 1.6, 0.1, 5000)
  let [looked, dots] = [0, 0]
  const picture = (run: number) => {
    camera.position.set(Math.sin(run / 40) * side * 0.3, 4, Math.cos(run / 40) * side * 0.3)
    camera.rotation.set(-0.1, run / 40, 0, 'YXZ')
    camera.updateMatrixWorld()
    dots = assignDetail(layers, { camera, heightPx: 800, exact: false }, 160_000).asDots
    looked = layers.reduce((sum, l) => sum + l.near.reduce((n, b) => n + l.blocks.starts[b + 1] - l.blocks.starts[b], 0), 0)
  }
  console.log(`  the first picture: ${times(1, picture)}`)
  console.log(`  a picture while the camera moves: ${times(400, picture)}; in the last one ${looked} plants were looked at, ${dots} were dots`)
}
