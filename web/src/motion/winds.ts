/** Names of the directions a wind comes from, clockwise from north. */
const NAMES = [
  'north', 'north-northeast', 'northeast', 'east-northeast', 'east', 'east-southeast', 'southeast', 'south-southeast',
  'south', 'south-southwest', 'southwest', 'west-southwest', 'west', 'west-northwest', 'northwest', 'north-northwest',
]

/** What a direction is called, degrees clockwise from north. */
export const directionName = (deg: number) => NAMES[Math.round(deg / 22.5) % 16]
