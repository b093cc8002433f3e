import { LATE } from './refine/refinement'
import { MOUSE, MathUtils, OrthographicCamera, PerspectiveCamera, Vector3 } from 'three'
import { MapControls } from 'three/addons/controls/MapControls.js'

export interface CameraPlace {
  /** x, y, z. */
  eye_m: number[]
  target_m: number[]
}

/** The vertical angle of view, degrees, and the shape of the picture, width over height; 0 for that of the view. */
export interface Lens {
  viewDeg: number
  aspect: number
}

const tanHalf = (deg: number) => Math.tan(MathUtils.degToRad(deg) / 2)

export interface Bearing {
  /** Metres for one pixel at what is looked at. */
  metresPerPx: number
  /** Where the top of the picture points, degrees clockwise from north. */
  headingDeg: number
}

/** Steepest look up, from straight above. */
const ANYWHERE = Math.PI * 0.98
/** So near the land a camera comes that is turned down, metres. */
const CLEAR_M = 0.3

/** The height of what lies at a place of the plan; null where there is nothing. */
type Level = (x: number, z: number) => number | null

/** The two cameras of a view, one in perspective and one straight above, and what moves them. */
export class Cameras {
  readonly perspective = new PerspectiveCamera(42, 1, 0.1, 90_000)
  readonly plan = new OrthographicCamera(-1, 1, 1, -1, -6000, 6000)
  mode: 'perspective' | 'plan' = 'perspective'
  private lens: Lens = { viewDeg: 42, aspect: 0 }
  private readonly controls: { perspective: MapControls; plan: MapControls }
  private level: Level | null = null

  /** `told` hears of every movement. */
  constructor(canvas: HTMLElement, told: () => void) {
    const onMove = () => {
      this.hold()
      told()
    }
    for (const camera of [this.perspective, this.plan]) camera.layers.enable(LATE)
    this.perspective.position.set(60, 60, 160)
    this.plan.position.set(0, 3000, 0)
    this.plan.up.set(0, 0, -1)
    this.plan.lookAt(0, 0, 0)
    this.plan.updateMatrixWorld()
    // Controls remember where a camera stood, and which way was up, when they were made.
    this.controls = { perspective: control(this.perspective, canvas, onMove), plan: control(this.plan, canvas, onMove) }
    this.controls.plan.enableRotate = false
    // What is up in a plan lies north: it is moved along its own picture.
    this.controls.plan.screenSpacePanning = true
  }

  /** The one that is looked through. */
  get current() {
    return this.mode === 'plan' ? this.plan : this.perspective
  }

  setMode(mode: 'perspective' | 'plan') {
    this.mode = mode
    this.controls.perspective.enabled = mode === 'perspective'
    this.controls.plan.enabled = mode === 'plan'
  }

  /** Width over height of the picture, and the size of the ground, metres, that a plan is to show whole. */
  fit(aspect: number, size: [number, number]) {
    this.perspective.aspect = aspect
    this.takeIn()
    const half = Math.max(size[1] / 2, size[0] / 2 / aspect) * 1.06
    Object.assign(this.plan, { left: -half * aspect, right: half * aspect, top: half, bottom: -half })
    this.plan.updateProjectionMatrix()
  }

  /** What a camera that is turned by hand stays above: the height of land or water at a place. Without land there is an underside to look at. */
  overLand(level: Level | null) {
    this.level = level
    this.hold()
  }

  /** Lets the camera be turned down only as far as it stays above the land; where a shot took it below, no further. */
  private hold() {
    const controls = this.controls?.perspective
    if (!controls) return
    const { position } = this.perspective
    const away = Math.max(position.distanceTo(controls.target), 1e-6)
    const polar = (height: number) => Math.acos(MathUtils.clamp((height - controls.target.y) / away, -1, 1))
    const level = this.level?.(position.x, position.z) ?? null
    controls.maxPolarAngle = level === null ? ANYWHERE : Math.min(Math.max(polar(level + CLEAR_M), polar(position.y)), ANYWHERE)
  }

  /** Keeps the left button for a tool; the right one turns the view, with Shift it moves it. */
  holdStill(held: boolean) {
    for (const c of Object.values(this.controls)) c.mouseButtons.LEFT = held ? null : MOUSE.PAN
  }

  /** Looks from a place, through a lens where one is given. */
  look(place: CameraPlace, lens = this.lens) {
    this.perspective.position.fromArray(place.eye_m)
    this.controls.perspective.target.fromArray(place.target_m)
    this.setLens(lens)
    this.hold()
    this.controls.perspective.update()
  }

  /** Takes another lens: its picture is whole in the view, whatever shape that has. */
  setLens(lens: Lens) {
    this.lens = lens
    this.takeIn()
  }

  /** How much of the view, across and up, the picture of a lens fills. */
  frame({ viewDeg, aspect }: Lens): { across: number; up: number } {
    const up = tanHalf(viewDeg) / tanHalf(this.perspective.fov)
    return { across: aspect ? (up * aspect) / this.perspective.aspect : up, up }
  }

  private takeIn() {
    const { viewDeg, aspect } = this.lens
    const wider = aspect ? Math.max(1, aspect / this.perspective.aspect) : 1
    this.perspective.fov = wider > 1 ? MathUtils.radToDeg(2 * Math.atan(tanHalf(viewDeg) * wider)) : viewDeg
    this.perspective.updateProjectionMatrix()
  }

  /** Lays the plan back to where it began. */
  resetPlan() {
    this.controls.plan.reset()
  }

  /** Where the camera stands and what it looks at. */
  place(): CameraPlace {
    const round = (v: Vector3) => v.toArray().map((c) => Number(c.toFixed(3)))
    return { eye_m: round(this.perspective.position), target_m: round(this.controls.perspective.target) }
  }

  /** The point that the view turns about. */
  get middle(): Vector3 {
    return this.controls[this.mode].target
  }

  /** Makes ready for a picture: what is near is not cut off, and what is far keeps its depth. */
  settle() {
    if (this.mode === 'perspective') {
      const away = this.perspective.position.distanceTo(this.controls.perspective.target)
      this.perspective.near = MathUtils.clamp(away * 0.01, 0.05, 0.5)
      this.perspective.updateProjectionMatrix()
    }
    this.current.updateMatrixWorld()
  }

  /** Pixels of a metre: anywhere in a plan, at a metre's distance in perspective. */
  pxPerMetre(heightPx: number): number {
    return this.mode === 'plan'
      ? (heightPx * this.plan.zoom) / (this.plan.top - this.plan.bottom)
      : (heightPx * this.perspective.projectionMatrix.elements[5]) / 2
  }

  bearing(heightPx: number): Bearing {
    const px = this.pxPerMetre(heightPx)
    if (this.mode === 'plan') return { metresPerPx: 1 / px, headingDeg: 0 }
    const to = this.controls.perspective.target.clone().sub(this.perspective.position)
    return { metresPerPx: to.length() / px, headingDeg: (MathUtils.radToDeg(Math.atan2(to.x, -to.z)) + 360) % 360 }
  }

  dispose() {
    this.controls.perspective.dispose()
    this.controls.plan.dispose()
  }
}

function control(camera: PerspectiveCamera | OrthographicCamera, canvas: HTMLElement, onMove: () => void): MapControls {
  const controls = new MapControls(camera, canvas)
  controls.enableDamping = false
  controls.zoomToCursor = true
  controls.zoomSpeed = 1.4
  controls.screenSpacePanning = false
  controls.addEventListener('change', onMove)
  return controls
}
