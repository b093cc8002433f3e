import { Matrix4 } from 'three'
import type { RideNow } from './sway/ways'

/** What a moving ground does to the places on it. */
export function carriedTo({ about, by, turn }: RideNow): Matrix4 {
  const back = new Matrix4().makeTranslation(-about[0], 0, -about[1])
  return new Matrix4().makeTranslation(about[0] + by[0], by[1], about[1] + by[2]).multiply(new Matrix4().makeRotationY(-turn)).multiply(back)
}
