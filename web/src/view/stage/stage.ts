import { Color, Matrix4,
  Group, MOUSE, MathUtils, OrthographicCamera, PerspectiveCamera, Raycaster, SRGBColorSpace, Scene, Vector2,
  Vector3, WebGLRenderer, type Mesh, type ShaderMaterial,
} from 'three'
import { MapControls } from 'three/addons/controls/MapControls.js'
import type { FitsBuffer, GroundBuffer, MeshBuffer, PlantsBuffer } from '../../api/buffers'
import { assignDetail, type Drawn } from './detail'
import { GroundMesh } from './ground'
import { heightAt, pickGround, slopeAt } from './grid'
import { lightUniforms } from './light'
import { OutlineLines, type GroundLine } from './lines'
import { ObstacleMeshes } from './obstacles'
import type { Overlay } from './overlay'
import { PlacedGrounds, type GroundPlace, type Picked, type PlacedBuffer } from './placed'
import { PlantLayer } from './plantLayer'
import { HalfSize } from './halfSize'
import { drawsInSoftware } from './software'
import type { SpeciesMeshes } from './species'
import { makeSky, makeWater, waterPlane, type WaterPlane } from './surroundings'

export interface Frame extends Drawn {
  /** Counts the pictures drawn. */
  number: number
  /** How long the processor and the graphics took, milliseconds. */
  ms: number
  /** Whether this is the picture at rest, not one of a movement. */
  settled: boolean
  /** Metres for one pixel at what is looked at. */
  metresPerPx: number
  /** Where the top of the picture points, degrees clockwise from north. */
  headingDeg: number
}

export interface CameraPlace {
  /** x, y, z. */
  eye_m: number[]
  target_m: number[]
}

/** A picture at rest should take no longer than this. */
const PATIENCE_MS = 250
const SETTLE_MS = 180
const MOVING_SHARE = 0.25
/** Pictures that take longer than this are not waited for after a change. */
const HURRY_MS = 60

/** The 3D view, without any React. Draws only when something changed. */
export class Stage {
  readonly perspective = new PerspectiveCamera(42, 1, 0.1, 90_000)
  readonly plan = new OrthographicCamera(-1, 1, 1, -1, -6000, 6000)
  private mode: 'perspective' | 'plan' = 'perspective'
  private readonly renderer: WebGLRenderer
  private readonly software: boolean
  private readonly halfSize: HalfSize | null
  private readonly scene = new Scene()
  private readonly sky: Mesh = makeSky()
  private readonly water: Mesh = makeWater()
  private readonly controls: { perspective: MapControls; plan: MapControls }
  private readonly layers = new Map<string, PlantLayer>()
  private readonly plants = new Group()
  private readonly outlines = new OutlineLines()
  private readonly obstacles = new ObstacleMeshes()
  private readonly placed = new PlacedGrounds()
  private readonly pools = new Group()
  private share = 1
  /** A scene may do without the land. */
  private land = true
  private ground: GroundMesh | null = null
  private budget = 160_000
  private frames = 0
  /** How long the last picture at rest took. */
  private lastMs = 0
  private moving = false
  private queued = 0
  private settleTimer = 0
  private readonly onFrame: (frame: Frame) => void

  constructor(canvas: HTMLCanvasElement, onFrame: (frame: Frame) => void) {
    this.onFrame = onFrame
    this.software = drawsInSoftware()
    if (this.software) this.lastMs = Infinity
    this.renderer = new WebGLRenderer({ canvas, antialias: !this.software, powerPreference: 'high-performance' })
    this.renderer.outputColorSpace = SRGBColorSpace
    this.halfSize = this.software ? new HalfSize() : null
    this.renderer.setPixelRatio(this.software ? 1 : Math.min(window.devicePixelRatio, 2))
    this.scene.add(this.sky, this.water, this.plants, this.outlines.group, this.obstacles.group, this.placed.group, this.pools)
    this.controls = { perspective: this.control(this.perspective), plan: this.control(this.plan) }
    this.controls.plan.enableRotate = false
    this.controls.perspective.maxPolarAngle = Math.PI * 0.499
    this.perspective.position.set(60, 60, 160)
    this.plan.position.set(0, 3000, 0)
    this.plan.up.set(0, 0, -1)
    this.plan.lookAt(0, 0, 0)
    this.plan.updateMatrixWorld()
    this.setMode('perspective')
  }

  private control(camera: PerspectiveCamera | OrthographicCamera): MapControls {
    const controls = new MapControls(camera, this.renderer.domElement)
    controls.enableDamping = false
    controls.zoomToCursor = true
    controls.zoomSpeed = 1.4
    controls.screenSpacePanning = false
    controls.addEventListener('change', () => this.move())
    return controls
  }

  private get camera() {
    return this.mode === 'plan' ? this.plan : this.perspective
  }

  resize(width: number, height: number) {
    if (width < 1 || height < 1) return
    this.renderer.setSize(width, height, false)
    this.perspective.aspect = width / height
    this.perspective.updateProjectionMatrix()
    this.fitPlan(width / height)
    this.draw()
  }

  private fitPlan(aspect: number) {
    const size = this.ground?.data.size_m ?? [100, 100]
    const half = Math.max(size[1] / 2, size[0] / 2 / aspect) * 1.06
    Object.assign(this.plan, { left: -half * aspect, right: half * aspect, top: half, bottom: -half })
    this.plan.updateProjectionMatrix()
  }

  setMode(mode: 'perspective' | 'plan') {
    this.mode = mode
    this.controls.perspective.enabled = mode === 'perspective'
    this.controls.plan.enabled = mode === 'plan'
    this.outlines.plan(mode === 'plan')
    this.draw()
  }

  setGround(data: GroundBuffer) {
    if (this.ground?.data === data) return
    if (this.ground?.follow(data)) {
      this.hurry()
      return
    }
    if (this.ground) {
      this.scene.remove(this.ground.group)
      this.ground.dispose()
    }
    this.ground = new GroundMesh(data, this.software ? 1 : 4)
    this.scene.add(this.ground.group)
    this.ground.group.visible = this.land
    this.water.visible = data.water_m !== null
    this.water.position.y = data.water_m ?? 0
    this.fitPlan(this.perspective.aspect)
    this.hurry()
  }

  /** Whether the land is there. */
  showLand(shown: boolean) {
    this.land = shown
    // Without land there is an underside to look at.
    this.controls.perspective.maxPolarAngle = Math.PI * (shown ? 0.499 : 0.98)
    if (this.ground) this.ground.group.visible = shown
    this.hurry()
  }

  setPlaced(id: number, buffer: PlacedBuffer | null, place: GroundPlace) {
    this.placed.set(id, buffer, place)
    this.hurry()
  }

  setWaters(planes: WaterPlane[]) {
    for (const old of [...this.pools.children] as Mesh[]) {
      this.pools.remove(old)
      old.geometry.dispose()
    }
    for (const plane of planes) this.pools.add(waterPlane(plane, this.water.material as ShaderMaterial))
    this.hurry()
  }

  /** Keeps the left button for a tool; the right one turns the view, with Shift it moves it. */
  holdStill(held: boolean) {
    for (const c of Object.values(this.controls)) c.mouseButtons.LEFT = held ? null : MOUSE.PAN
  }

  /** A ring on the ground around a point, as the path of an SVG over the canvas; empty where it is out of sight. */
  ringOnGround(around: { x: number; z: number }, radius: number, corners: number): string {
    const g = this.ground?.data
    if (!g) return ''
    let path = ''
    for (let i = 0; i <= corners; i++) {
      const angle = (i / corners) * 2 * Math.PI
      const x = around.x + Math.cos(angle) * radius
      const z = around.z + Math.sin(angle) * radius
      const y = heightAt(g, x, z)
      const at = y === null ? null : this.project({ x, y, z })
      path += at ? `${path === '' || path.endsWith(' ') ? 'M' : 'L'}${at.x.toFixed(1)},${at.y.toFixed(1)}` : ' '
    }
    return path.trim()
  }

  setContours(metres: number) {
    this.ground?.contour(metres)
    this.placed.contour(metres)
    this.draw()
  }

  lay(overlay: Overlay | null, withPlants = true, placed: Map<number, Overlay> = new Map()) {
    this.ground?.lay(overlay)
    this.placed.lay(placed)
    this.plants.visible = withPlants
    this.hurry()
  }

  /** Height of the ground in the view at a point of the plan; null beside it. */
  heightAt(x: number, z: number): number | null {
    return this.ground ? heightAt(this.ground.data, x, z) : null
  }

  setOutlines(lines: GroundLine[]) {
    if (!this.ground) return
    this.outlines.set(lines, this.ground.data)
    this.outlines.plan(this.mode === 'plan')
    this.hurry()
  }

  setObstacle(id: number, mesh: MeshBuffer | null) {
    this.obstacles.set(id, mesh)
    this.hurry()
  }

  setLayer(id: string, look: SpeciesMeshes, plants: PlantsBuffer, visible: boolean, forced: number | null = null, key: string | null = null) {
    let layer = this.layers.get(id)
    if (layer && layer.look !== look) {
      this.removeLayer(id)
      layer = undefined
    }
    if (!layer) {
      layer = new PlantLayer(look)
      layer.share = this.share
      this.layers.set(id, layer)
      this.plants.add(layer.group)
    }
    if (layer.plants !== plants) layer.set(plants)
    layer.group.visible = visible
    layer.forced = forced
    layer.key(key === null ? null : new Color(key))
    this.hurry()
  }

  /** Gives plants of a layer that stands forms of their own, see `PlantLayer.fit`. */
  fitLayer(id: string, fits: FitsBuffer | null, species: number) {
    this.layers.get(id)?.fit(fits, species)
    this.hurry()
  }

  /** Draws only so many of the plants; counts stay what they are. */
  preview(share: number) {
    this.share = share
    for (const layer of this.layers.values()) layer.share = share
    this.hurry()
  }

  removeLayer(id: string) {
    const layer = this.layers.get(id)
    if (!layer) return
    this.plants.remove(layer.group)
    layer.dispose()
    this.layers.delete(id)
    this.draw()
  }

  /** Looks from a place; `viewDeg` is the vertical angle of view. */
  look(place: CameraPlace, viewDeg: number) {
    this.perspective.position.fromArray(place.eye_m)
    this.controls.perspective.target.fromArray(place.target_m)
    this.perspective.fov = viewDeg
    this.perspective.updateProjectionMatrix()
    this.controls.perspective.update()
    this.draw()
  }

  /** Stands back until the whole ground is in the picture. */
  frameGround() {
    const g = this.ground?.data
    if (!g) return
    const extent = this.land ? null : this.placed.extent()
    if (extent) {
      const { middle, reach } = extent
      const away = reach * 2.2
      this.look({ eye_m: [middle.x + away * 0.42, middle.y + away * 0.4, middle.z + away * 0.85], target_m: middle.toArray() }, this.perspective.fov)
      return
    }
    const size = Math.max(...g.size_m)
    const middle = (g.low_m + g.high_m) / 2
    this.look({ eye_m: [size * 0.42, middle + size * 0.42, size * 0.85], target_m: [0, middle, 0] }, this.perspective.fov)
    this.controls.plan.reset()
    this.fitPlan(this.perspective.aspect)
  }

  /** Where the camera stands and what it looks at. */
  place(): CameraPlace {
    const round = (v: Vector3) => v.toArray().map((c) => Number(c.toFixed(3)))
    return { eye_m: round(this.perspective.position), target_m: round(this.controls.perspective.target) }
  }

  /** The point of a ground under a pixel of the canvas: of the land alone where that is wanted. */
  pick(x: number, y: number, landOnly = false): Picked | null {
    if (!this.ground) return null
    const size = this.renderer.getSize(new Vector2())
    const at = new Vector2((x / size.x) * 2 - 1, 1 - (y / size.y) * 2)
    const caster = new Raycaster()
    this.camera.updateMatrixWorld()
    caster.setFromCamera(at, this.camera)
    const g = this.ground.data
    const on = this.land ? pickGround(g, caster.ray) : null
    const land = on && { ...on, ground: 0, slope: slopeAt(g, on.x, on.z) ?? 0 }
    const placed = landOnly ? null : this.placed.pick(caster.ray)
    if (!placed) return land
    const away = land ? caster.ray.origin.distanceTo(new Vector3(land.x, land.y, land.z)) : Infinity
    return placed.away < away ? placed : land
  }

  /** The point at a height under a pixel of the canvas; null where the ray does not come down, or far off. */
  pickLevel(x: number, y: number, height: number): { x: number; y: number; z: number } | null {
    const size = this.renderer.getSize(new Vector2())
    const caster = new Raycaster()
    this.camera.updateMatrixWorld()
    caster.setFromCamera(new Vector2((x / size.x) * 2 - 1, 1 - (y / size.y) * 2), this.camera)
    const { origin, direction } = caster.ray
    const t = (height - origin.y) / direction.y
    return t > 0 && t < 90_000 ? { x: origin.x + direction.x * t, y: height, z: origin.z + direction.z * t } : null
  }

  /** The pixel of the canvas a point is seen at; null behind the camera. */
  project(p: { x: number; y: number; z: number }): { x: number; y: number } | null {
    const size = this.renderer.getSize(new Vector2())
    const v = new Vector3(p.x, p.y, p.z).project(this.camera)
    return v.z > 1 ? null : { x: ((v.x + 1) / 2) * size.x, y: ((1 - v.y) / 2) * size.y }
  }

  /** Of the canvas, in pixels. */
  size(): { width: number; height: number } {
    const { x: width, y: height } = this.renderer.getSize(new Vector2())
    return { width, height }
  }

  /** The same for many points: the camera and the size of the canvas are read once. */
  projector(): (p: { x: number; y: number; z: number }) => { x: number; y: number } | null {
    const { x: width, y: height } = this.renderer.getSize(new Vector2())
    this.camera.updateMatrixWorld()
    const m = new Matrix4().multiplyMatrices(this.camera.projectionMatrix, this.camera.matrixWorldInverse).elements
    return ({ x, y, z }) => {
      const w = m[3] * x + m[7] * y + m[11] * z + m[15]
      if (w <= 0) return null
      const [u, v] = [(m[0] * x + m[4] * y + m[8] * z + m[12]) / w, (m[1] * x + m[5] * y + m[9] * z + m[13]) / w]
      return { x: ((u + 1) / 2) * width, y: ((1 - v) / 2) * height }
    }
  }

  private move() {
    this.moving = true
    window.clearTimeout(this.settleTimer)
    this.settleTimer = window.setTimeout(() => this.settle(), SETTLE_MS)
    this.draw()
  }

  private settle() {
    this.moving = false
    this.draw()
  }

  /** Shows a change at once: where pictures take long, a rougher one first and the full one a moment later. */
  private hurry() {
    if (this.lastMs > HURRY_MS) this.move()
    else this.draw()
  }

  /** Pixels drawn for one of the page, each way: on the processor a moving picture is drawn at half its size. */
  private ratio(): number {
    return this.renderer.getPixelRatio() * (this.moving && this.halfSize ? 0.5 : 1)
  }

  /** Draws at the next frame. */
  draw() {
    if (this.queued) return
    this.queued = requestAnimationFrame(() => {
      this.queued = 0
      this.render()
    })
  }

  private render() {
    // An empty sky is no picture worth the wait.
    if (!this.ground) return
    const start = performance.now()
    const camera = this.camera
    const height = this.renderer.getSize(new Vector2()).y * this.ratio()
    if (this.mode === 'perspective') {
      const away = this.perspective.position.distanceTo(this.controls.perspective.target)
      this.perspective.near = Math.max(0.05, Math.min(0.5, away * 0.01))
      this.perspective.updateProjectionMatrix()
    }
    // A plan is drawn from far above, but not through far air.
    lightUniforms.uClear.value = this.mode === 'plan' ? 0 : 1
    camera.updateMatrixWorld()
    this.sky.visible = this.mode === 'perspective'
    const scale = this.mode === 'plan'
      ? (height * this.plan.zoom) / (this.plan.top - this.plan.bottom)
      : (height * camera.projectionMatrix.elements[5]) / 2
    // Sixty pixels wide, whatever the camera: in plan so many metres, in perspective so much at a metre's distance.
    this.ground.scaleLabels((60 * this.ratio()) / scale, this.mode === 'plan')
    for (const layer of this.layers.values()) {
      layer.dotMaterial.uniforms.uScale.value = scale
      layer.dotMaterial.uniforms.uPerspective.value = this.mode === 'plan' ? 0 : 1
    }
    const budget = this.moving ? this.budget * MOVING_SHARE : this.budget
    const layers = this.plants.visible ? [...this.layers.values()] : []
    const drawn = assignDetail(layers, { camera, heightPx: height, exact: !this.moving }, budget)
    if (this.moving && this.halfSize) this.halfSize.render(this.renderer, this.scene, camera)
    else this.renderer.render(this.scene, camera)
    if (!this.moving || this.software) this.waitForGraphics()
    const ms = performance.now() - start
    this.frames++
    if (!this.moving) {
      this.lastMs = ms
      this.adapt(ms, drawn.triangles)
    }
    this.onFrame({ ...drawn, number: this.frames, ms, settled: !this.moving, ...this.bearing(height) })
  }

  /** Reading a pixel back waits until the picture is really there, so that the time means something. */
  private waitForGraphics() {
    const gl = this.renderer.getContext()
    gl.readPixels(0, 0, 1, 1, gl.RGBA, gl.UNSIGNED_BYTE, new Uint8Array(4))
  }

  /** More triangles where there is time for them, fewer where there is not. */
  private adapt(ms: number, triangles: number) {
    // The first frames also make the shaders.
    if (this.frames < 4) return
    if (ms > PATIENCE_MS * 1.3) this.budget = Math.max(90_000, this.budget * MathUtils.clamp(PATIENCE_MS / ms, 0.5, 0.9))
    else if (ms < PATIENCE_MS * 0.5 && triangles > this.budget * 0.6) this.budget = Math.min(6_000_000, this.budget * 1.5)
  }

  private bearing(heightPx: number): Pick<Frame, 'metresPerPx' | 'headingDeg'> {
    const ratio = this.ratio()
    if (this.mode === 'plan') {
      return { metresPerPx: ((this.plan.top - this.plan.bottom) / this.plan.zoom / heightPx) * ratio, headingDeg: 0 }
    }
    const to = this.controls.perspective.target.clone().sub(this.perspective.position)
    const focal = (heightPx * this.perspective.projectionMatrix.elements[5]) / 2
    const headingDeg = (MathUtils.radToDeg(Math.atan2(to.x, -to.z)) + 360) % 360
    return { metresPerPx: (to.length() / focal) * ratio, headingDeg }
  }

  dispose() {
    cancelAnimationFrame(this.queued)
    window.clearTimeout(this.settleTimer)
    for (const id of this.layers.keys()) this.removeLayer(id)
    cancelAnimationFrame(this.queued)
    this.halfSize?.dispose()
    this.ground?.dispose()
    this.outlines.clear()
    this.obstacles.dispose()
    this.placed.dispose()
    this.setWaters([])
    cancelAnimationFrame(this.queued)
    for (const part of [this.sky, this.water]) {
      part.geometry.dispose()
      ;(part.material as ShaderMaterial).dispose()
    }
    this.controls.perspective.dispose()
    this.controls.plan.dispose()
    this.renderer.dispose()
  }
}
