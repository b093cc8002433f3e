/** Key colours with a pattern each, so that layers are told apart without colour too. */
const KEYS = [
  { colour: '#7c9a4e', pattern: 'M0 8 8 0M-2 2 2-2M6 10 10 6' },
  { colour: '#8a8f92', pattern: 'M2 2h2v2H2zM6 6h2v2H6z' },
  { colour: '#b8406d', pattern: 'M0 2.5h8M0 6.5h8' },
  { colour: '#b79b2f', pattern: 'M2.5 0v8M6.5 0v8' },
  { colour: '#35525e', pattern: 'M0 0 8 8M-2 6 2 10M6-2 10 2' },
  { colour: '#a0704c', pattern: 'M0 4h8M4 0v8' },
  { colour: '#4c7a45', pattern: 'M4 1v6M1 4h6' },
  { colour: '#7a5f8f', pattern: 'M0 4 2 2 4 4 6 2 8 4' },
] as const

export function keyOf(layerId: number) {
  return KEYS[(layerId - 1 + KEYS.length) % KEYS.length]
}
