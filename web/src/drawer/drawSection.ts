import type { Layer, Schemas } from '../api/client'
import { keyOf } from '../profile/keyColour'
import { showNumber } from '../ui/parse'
import { marks } from '../ui/marks'
import { rampAt, type Scale } from '../view/ramps'
import { sectionScale } from './sectionScale'
import { windArrows, type SectionWind } from './sectionWind'
import { leadOf } from '../state/mix'

type Section = Schemas['Section']

/** How what is read along a section is coloured. */
export interface ReadScale {
  low: number
  high: number
  scale: Scale
}

/** The colour of a value; of what is unknown a grey that no scale has. */
export function readColour({ low, high, scale }: ReadScale, value: number | null): string {
  return value === null ? 'rgb(118, 116, 114)' : `rgb(${rampAt(scale, (value - low) / (high - low)).join(', ')})`
}

/**
 * Draws a section: earth, water, plants and rocks in the layer's key colour, marks in metres; the surface in the colours of what is read
 * along it.
 */
export function drawSection(
  canvas: HTMLCanvasElement, width: number, height: number, section: Section, layers: Layer[], stones: Set<string>, read: ReadScale | null = null, wind: SectionWind | null = null,
) {
  const ratio = window.devicePixelRatio || 1
  canvas.width = width * ratio
  canvas.height = height * ratio
  canvas.style.width = `${width}px`
  canvas.style.height = `${height}px`
  const c = canvas.getContext('2d')!
  c.scale(ratio, ratio)
  const style = getComputedStyle(document.documentElement)
  const [ink, soft, rule, panel] = ['--ink', '--soft', '--rule', '--panel'].map((v) => style.getPropertyValue(v).trim())
  const known = section.heights_m.filter((h) => h != null)
  for (const [, y0, , y1] of section.pieces_m) known.push(y0, y1)
  if (known.length === 0) {
    c.fillStyle = soft
    c.font = '13px "Instrument Sans Variable"'
    c.fillText('The line lies beside the ground.', 12, 24)
    return
  }
  const highest = known.reduce((a, b) => Math.max(a, b))
  const lowest = known.reduce((a, b) => Math.min(a, b))
  const top = section.plants.reduce((most, p) => Math.max(most, p.base_m + p.height_m), highest)
  const s = sectionScale(section.length_m, lowest, Math.max(top, section.water_m ?? -Infinity), {
    left: 44, top: 6, width: width - 56, height: height - 30,
  })
  c.font = '10.5px "Spline Sans Mono"'
  c.lineWidth = 1
  for (const m of marks(s.low, s.high, 4)) {
    c.strokeStyle = rule
    line(c, s.x(0), s.y(m), s.x(section.length_m), s.y(m))
    c.fillStyle = soft
    c.textAlign = 'right'
    c.fillText(showNumber(m, 1), 38, s.y(m) + 3.5)
  }
  const at = (i: number) => s.x((i / (section.heights_m.length - 1)) * section.length_m)
  if (section.water_m != null && section.water_m > s.low) {
    c.fillStyle = 'rgba(70, 120, 140, 0.28)'
    c.fillRect(s.x(0), s.y(section.water_m), s.x(section.length_m) - s.x(0), height - 20 - s.y(section.water_m))
  }
  c.beginPath()
  c.moveTo(at(0), height - 20)
  section.heights_m.forEach((h, i) => h != null && c.lineTo(at(i), s.y(h)))
  c.lineTo(at(section.heights_m.length - 1), height - 20)
  c.closePath()
  // Over the water first, so that it only shows where it stands.
  c.fillStyle = panel
  c.fill()
  c.fillStyle = 'rgba(120, 98, 70, 0.35)'
  c.fill()
  // Grounds beside the land and built things: their cut lines, and what lies between them as earth or stone.
  c.strokeStyle = ink
  c.lineWidth = 1.1
  for (const [x0, y0, x1, y1] of section.pieces_m) line(c, s.x(x0), s.y(y0), s.x(x1), s.y(y1))
  c.lineWidth = 1
  const kinds = new Map(layers.map((l) => [l.id, { colour: keyOf(l.id).colour, rock: stones.has(leadOf(l)) }]))
  for (const p of section.plants) {
    const { colour = soft, rock = false } = kinds.get(p.layer) ?? {}
    const [x, y] = [s.x(p.at_m), s.y(p.base_m)]
    const tall = Math.max(1.2, y - s.y(p.base_m + p.height_m))
    const wide = Math.max(0.6, p.radius_m * s.across)
    c.strokeStyle = c.fillStyle = colour
    if (rock) {
      c.beginPath()
      c.ellipse(x, y - tall * 0.35, wide, tall * 0.55, 0, 0, Math.PI * 2)
      c.fill()
    } else {
      c.globalAlpha = 0.75
      for (const lean of [-0.9, -0.35, 0.3, 0.85]) line(c, x, y, x + lean * wide, y - tall * (1 - 0.25 * Math.abs(lean)))
      c.globalAlpha = 1
    }
  }
  c.strokeStyle = ink
  c.lineWidth = 1.4
  c.beginPath()
  section.heights_m.forEach((h, i) => h != null && (i === 0 || section.heights_m[i - 1] == null ? c.moveTo(at(i), s.y(h)) : c.lineTo(at(i), s.y(h))))
  c.stroke()
  if (section.read && read) {
    const { values, pieces } = section.read
    c.lineWidth = 5
    c.lineCap = 'round'
    section.pieces_m.forEach(([x0, y0, x1, y1], i) => {
      // Nothing is read off what is built.
      if (pieces[i][0] === null && pieces[i][1] === null) return
      c.strokeStyle = readColour(read, pieces[i][0] ?? pieces[i][1])
      line(c, s.x(x0), s.y(y0), s.x(x1), s.y(y1))
    })
    section.heights_m.forEach((h, i) => {
      const next = section.heights_m[i + 1]
      if (h == null || next == null) return
      c.strokeStyle = readColour(read, values[i])
      line(c, at(i), s.y(h), at(i + 1), s.y(next))
    })
    c.lineWidth = 1.4
    c.lineCap = 'butt'
  }
  if (wind) {
    c.strokeStyle = style.getPropertyValue('--sea').trim()
    c.lineWidth = 1.3
    for (const { x, y, along } of windArrows(wind, s, section.length_m, section.heights_m)) {
      const [tip, head] = [x + along, Math.sign(along) * Math.min(4, Math.abs(along))]
      line(c, x, y, tip, y)
      line(c, tip, y, tip - head, y - 3)
      line(c, tip, y, tip - head, y + 3)
    }
    c.lineWidth = 1
  }
  c.fillStyle = soft
  c.textAlign = 'center'
  for (const m of marks(0, section.length_m, 8)) c.fillText(`${showNumber(m, 1)}`, s.x(m), height - 6)
  c.textAlign = 'left'
  c.fillText('m', s.x(section.length_m) + 2, height - 6)
  c.fillStyle = ink
  c.fillText('A', s.x(0) + 3, height - 25)
  c.textAlign = 'right'
  c.fillText('B', s.x(section.length_m) - 3, height - 25)
  if (s.exaggeration !== 1) {
    c.textAlign = 'right'
    c.fillStyle = ink
    c.fillText(`heights × ${showNumber(s.exaggeration, 2)}`, width - 12, 14)
  }
}

function line(c: CanvasRenderingContext2D, x0: number, y0: number, x1: number, y1: number) {
  c.beginPath()
  c.moveTo(x0, y0)
  c.lineTo(x1, y1)
  c.stroke()
}
