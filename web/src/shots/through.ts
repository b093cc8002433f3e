import type { Shot } from '../api/client'
import type { CameraPlace, Lens } from '../view/stage/cameras'

/** The lens of a shot. */
export const lensOf = (shot: Pick<Shot, 'view_deg' | 'width_px' | 'height_px'>): Lens => ({
  viewDeg: shot.view_deg,
  aspect: shot.width_px / shot.height_px,
})

/** Whether a camera stands where a shot is taken from, to the millimetre it is kept in. */
export function atShot(shot: CameraPlace, place: CameraPlace): boolean {
  const near = (a: number[], b: number[]) => a.every((v, i) => Math.abs(v - b[i]) < 0.002)
  return near(shot.eye_m, place.eye_m) && near(shot.target_m, place.target_m)
}
