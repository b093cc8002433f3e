import type { Schemas } from '../../api/client'
import { Group, PerspectiveCamera, SRGBColorSpace, Scene, Vector2, Vector3, WebGLRenderer, type Mesh, type ShaderMaterial } from 'three'
import type { Rest } from '../ways'
import type { FitsBuffer, FlowBuffer, GroundBuffer, MeshBuffer, SoilsBuffer, TexturesBuffer, WavesBuffer } from '../../api/buffers'
import { Beyond } from './beyond'
import { cloudUniforms, driftClouds, setBillows } from './sky/clouds'
import { Cameras, type Bearing, type CameraPlace, type Lens } from './cameras'
import { sum, type Drawn } from './detail'
import { Frames } from './frames'
import { GroundMesh } from './ground'
import { heightAt } from './grid'
import { OffScreen } from './offScreen'
import { lightUniforms } from './light'
import { Mirror, mirrored } from './mirror'
import { OutlineLines, type GroundLine } from './lines'
import { ObstacleMeshes } from './obstacles'
import type { Overlay } from './overlay'
import { pick, pickLevel, projector, ringOnGround, type Looked, type Pixel, type Point } from './picking'
import { Refinement, jitter } from './refine/refinement'
import { slices } from './refine/slices'
import { Shadows, type Cast } from './shadows/shadows'
import { REACH_M } from './nap/distances'
import { Nap } from './nap/nap'
import { napUniforms, setBare } from './nap/shade'
import { NapTiles, type NapSource } from './nap/tiles'
import { PlacedGrounds, type GroundPlace, type Picked, type PlacedBuffer } from './placed'
import { PlantLayers, type LayerLook } from './plantLayers'
import { drawsInSoftware } from './software'
import { SwayPass, type SwayPoints } from './sway/pass'
import { Streamlines } from './streamlines'
import { placeAt, type Place } from './sway/ways'
import { ridesNow, setFlow, setMoment, setMoving, type MotionFacts } from './sway/wind'
import { seaAt, seaLevel, seaWhile, setSea } from './water/sea'
import { laySoils, soilUniforms } from './soils'
import { lookAtTextures, setTextures, textureUniforms } from './textures/textures'
import { makeSky, makeWater, poolMaterial, waterPlane, type WaterPlane } from './surroundings'

export type { CameraPlace } from './cameras'

/** Triangles of plants in a refined picture: with a graphics card, and on the processor. */
const REFINED = { card: 30_000_000, processor: 3_000_000 }
/** Share of the triangles of plants that the nap of the ground may have as well, at rest and in a movement. */
const NAP = { rest: 0.4, moving: 0.25 }
/** Triangles of it in a refined picture, on the processor. */
const REFINED_NAP = 900_000
/** Triangles of plants that water mirrors. */
const MIRRORED = 90_000
/** By so many doublings of its height a plant is worth more in it. */
const FINER = 2.5

export interface Frame extends Drawn, Bearing {
  /** Counts the pictures drawn. */
  number: number
  /** How long the processor and the graphics took, milliseconds. */
  ms: number
  /** Whether this is the picture at rest, not one of a movement. */
  settled: boolean
  /** Whole pictures whose mean is shown, once it is refined at rest. */
  refined: number
  /** Whether it goes on being refined. */
  refining: boolean
  /** Tufts of the ground's own cover. */
  nap: number
}

/** The 3D view, without any React: what is in it. When it is drawn is up to [Frames], whence to [Cameras]. */
export class Stage {
  private readonly renderer: WebGLRenderer
  private readonly software: boolean
  private readonly offScreen: OffScreen | null
  private readonly scene = new Scene()
  private readonly sky: Mesh = makeSky()
  private readonly water: Mesh = makeWater()
  private readonly cameras: Cameras
  private readonly frames: Frames
  private readonly plants = new PlantLayers()
  private readonly outlines = new OutlineLines()
  private readonly streamlines = new Streamlines()
  private readonly obstacles = new ObstacleMeshes()
  private readonly bodies = new ObstacleMeshes()
  private readonly placed = new PlacedGrounds()
  private readonly pools = new Group()
  private readonly beyond = new Beyond()
  private readonly nap = new Nap()
  private readonly napTiles = new NapTiles((source, tiles) => {
    this.nap.set(source.forms, tiles)
    this.nap.lie((x, z) => this.heightAt(x, z))
    this.draw()
  })
  private napped = false
  private readonly poolMaterial = poolMaterial()
  /** A scene may do without the land. */
  private land = true
  private waters: WaterPlane[] = []
  private wind: MotionFacts | null = null
  private time = 0
  private last: Drawn | null = null
  private frame: Frame | null = null
  /** What the refined picture holds. */
  private finest: (Drawn & Pick<Frame, 'nap'>) | null = null
  private readonly swayPass = new SwayPass()
  private ground: GroundMesh | null = null
  private readonly soils = soilUniforms()
  private readonly shadows: Shadows
  private readonly refinement: Refinement
  private readonly mirror = new Mirror()
  private refines = true
  private shaded = true
  private landVersion = 0
  private readonly onFrame: (frame: Frame) => void

  constructor(canvas: HTMLCanvasElement, onFrame: (frame: Frame) => void) {
    this.onFrame = onFrame
    this.software = drawsInSoftware()
    this.frames = new Frames(() => this.render(), this.software, (first) => this.refine(first))
    this.refinement = new Refinement(this.software)
    this.shadows = new Shadows(this.software)
    this.renderer = new WebGLRenderer({ canvas, antialias: !this.software, powerPreference: 'high-performance' })
    this.renderer.outputColorSpace = SRGBColorSpace
    this.offScreen = this.software ? new OffScreen() : null
    this.renderer.setPixelRatio(Math.min(window.devicePixelRatio, this.software ? 1 : 2))
    this.scene.add(this.sky, this.water, this.plants.group, this.outlines.group, this.streamlines.group, this.obstacles.group, this.bodies.group, this.placed.group, this.pools, this.beyond.mesh, this.nap.group)
    this.cameras = new Cameras(this.renderer.domElement, () => this.frames.move())
    this.setMode('perspective')
  }

  resize(width: number, height: number) {
    if (width < 1 || height < 1) return
    this.renderer.setSize(width, height, false)
    this.fitCameras()
    this.draw()
  }

  private fitCameras() {
    const { width, height } = this.size()
    this.cameras.fit(width / Math.max(height, 1), this.ground?.data.size_m ?? [100, 100])
  }

  setMode(mode: 'perspective' | 'plan') {
    this.cameras.setMode(mode)
    this.outlines.plan(mode === 'plan')
    this.draw()
  }

  setGround(data: GroundBuffer) {
    if (this.ground?.data === data) return
    this.landVersion++
    if (this.ground?.follow(data)) {
      this.nap.lie((x, z) => this.heightAt(x, z))
      this.frames.hurry()
      return
    }
    if (this.ground) {
      this.scene.remove(this.ground.group)
      this.ground.dispose()
    }
    this.ground = new GroundMesh(data, this.software ? 1 : 4, this.soils)
    this.scene.add(this.ground.group)
    this.ground.group.visible = this.land
    this.water.visible = data.water_m !== null
    this.water.position.y = data.water_m ?? 0
    lightUniforms.uWater.value = data.water_m ?? -1e6
    seaLevel(data.water_m)
    this.nap.lie((x, z) => this.heightAt(x, z))
    this.fitCameras()
    this.frames.hurry()
  }

  /** Whether the land is there. */
  showLand(shown: boolean) {
    this.land = shown
    this.landVersion++
    this.cameras.overLand(shown ? (x, z) => this.levelAt(x, z) : null)
    if (this.ground) this.ground.group.visible = shown
    this.frames.hurry()
  }

  /** The table of billows that clouds are made of. */
  setBillows(table: Uint8Array<ArrayBuffer>) {
    setBillows(table)
    this.draw()
  }

  /** The land beyond its edges; null where it ends there. */
  setBeyond(buffer: MeshBuffer | null) {
    if (this.beyond.set(buffer)) this.frames.hurry()
  }

  /** What outlines lay over the land. */
  setSoils(soils: SoilsBuffer) {
    laySoils(this.soils, soils)
    this.draw()
  }

  /** What grounds and built things are made of. */
  setTextures(textures: TexturesBuffer) {
    if (setTextures(textures)) this.frames.hurry()
  }

  /** Where the land's own fine cover comes from, null for none; earths in `bare` bring none. */
  setNap(source: NapSource | null, bare: readonly Schemas['Earth'][]) {
    this.napTiles.set(source)
    setBare(bare)
    this.napped = source !== null
    this.draw()
  }

  setPlaced(id: number, buffer: PlacedBuffer | null, place: GroundPlace) {
    this.placed.set(id, buffer, place)
    this.frames.hurry()
  }

  /** Waves on all water, and where land shelters them. */
  setSea(waves: WavesBuffer) {
    setSea(waves)
    seaAt(this.wind ? this.time : 0)
    this.setWaters(this.waters)
  }

  setWaters(planes: WaterPlane[]) {
    this.waters = planes
    for (const old of [...this.pools.children] as Mesh[]) {
      this.pools.remove(old)
      old.geometry.dispose()
    }
    for (const plane of planes) this.pools.add(waterPlane(plane, this.poolMaterial))
    this.frames.hurry()
  }

  setContours(metres: number) {
    this.ground?.contour(metres)
    this.placed.contour(metres)
    this.draw()
  }

  lay(over: Map<number, Overlay>, withPlants = true) {
    this.ground?.lay(over.get(0) ?? null)
    this.placed.lay(over)
    this.plants.group.visible = withPlants
    this.frames.hurry()
  }

  setOutlines(lines: GroundLine[]) {
    if (!this.ground) return
    this.outlines.set(lines, this.ground.data)
    this.outlines.plan(this.cameras.mode === 'plan')
    this.frames.hurry()
  }

  setObstacle(id: number, mesh: MeshBuffer | null) {
    this.obstacles.set(id, mesh)
    this.frames.hurry()
  }

  setLayer(id: string, look: LayerLook) {
    this.plants.set(id, look)
    this.frames.hurry()
  }

  /** Gives plants of a layer that stands forms of their own, see `PlantLayer.fit`. */
  fitLayer(id: string, fits: FitsBuffer | null, species: number) {
    this.plants.fit(id, fits, species)
    this.frames.hurry()
  }

  /** Draws only so large a share of the plants; counts stay what they are. */
  preview(share: number) {
    this.plants.preview(share)
    this.frames.hurry()
  }

  removeLayer(id: string) {
    this.plants.remove(id)
    this.draw()
  }

  /** Lets the wind blow as told, or all stand still when null. */
  setWind(wind: MotionFacts | null) {
    this.wind = wind
    const blows = (wind?.moving.blowers.length ?? 0) > 0
    const rides = wind?.moving.grounds.map((g) => g.ground) ?? []
    const felt = wind?.moving.bodies.some((b) => b.felt) ?? false
    const answers = wind?.layers.flatMap((l) =>
      l.species.flatMap(({ species, sway, push, tall_m, wide_m }) =>
        sway && (felt || rides.length > 0 || push.load > 0 || (blows && push.blown > 0)) ? [[`${l.id} ${species}`, { sway, push, tall_m, wide_m }] as const] : [],
      ),
    )
    this.plants.sway(answers ? new Map(answers) : null)
    this.plants.ride(rides)
    setMoving(wind?.moving ?? null)
    driftClouds([0, 0], 0)
    seaAt(0)
    this.placed.carry(ridesNow)
    this.toMoment()
    this.draw()
  }

  /** Puts a body's mesh in, or takes it out with null. */
  setBody(id: number, mesh: MeshBuffer | null) {
    this.bodies.set(id, mesh)
    this.toMoment()
    this.draw()
  }

  private toMoment() {
    if (!this.wind) return
    setMoment(this.wind, this.time)
    driftClouds(this.wind.clouds_m_per_s, this.time)
    seaAt(this.time)
    this.placed.carry(ridesNow)
    for (const b of this.wind.moving.bodies) this.bodies.move(b.id, placeAt(b.places as Place[], this.time))
  }

  /** How ground and obstacles change the mean wind; as over level ground when null. `shown` draws it as lines. */
  setFlow(flow: FlowBuffer | null, shown: boolean) {
    setFlow(flow)
    this.streamlines.set(shown ? flow : null)
    this.draw()
  }

  /** Shows another moment, seconds from the start. */
  setTime(time: number) {
    this.time = time
    if (!this.wind) return
    this.toMoment()
    // What moving grounds carry comes into the picture and leaves it.
    if (ridesNow.length > 0) this.frames.draw()
    else this.frames.again()
  }

  /** Whether one moment follows another: pictures are rougher then. */
  play(on: boolean) {
    this.frames.play(on)
  }

  /** How the plants of a layer that are drawn as meshes or cards are turned in the last picture, with their places: for checks. */
  turned(id: string): { place: number[]; tint: number[]; theta: number[]; ride: number[] } {
    // Refined it holds only a part of them at a time.
    if (!this.last) this.render()
    const of = (name: string, { points, count }: SwayPoints) => Array.from((points.geometry.getAttribute(name).array as Float32Array).subarray(0, count * 4))
    const all = this.plants.swayingOf(id)
    return {
      place: all.flatMap((one) => of('iPlace', one)),
      tint: all.flatMap((one) => of('iTint', one)),
      // Which moving ground each is on; below zero on what stays.
      ride: all.flatMap(({ points, count }) => {
        const { value } = points.material.uniforms.uRideOf as { value: Int32Array }
        return Array.from((points.geometry.getAttribute('iGround').array as Uint8Array).subarray(0, count), (slot) => value[slot])
      }),
      theta: all.flatMap((one) => [...this.swayPass.read(this.renderer, one)]),
    }
  }

  /** Keeps the left button for a tool; the right one turns the view, with Shift it moves it. */
  holdStill(held: boolean) {
    this.cameras.holdStill(held)
  }

  /** Looks from a place through a lens. */
  look(place: CameraPlace, lens: Lens) {
    this.cameras.look(place, lens)
    this.draw()
  }

  /** Takes another lens, from where the camera stands. */
  setLens(lens: Lens) {
    this.cameras.setLens(lens)
    this.draw()
  }

  /** How much of the view, across and up, the picture of a lens fills; null in plan. */
  frameOf(lens: Lens): { across: number; up: number } | null {
    return this.cameras.mode === 'plan' ? null : this.cameras.frame(lens)
  }

  /** Stands back until the whole ground is in the picture. */
  frameGround() {
    const g = this.ground?.data
    if (!g) return
    const extent = this.land ? null : this.placed.extent()
    if (extent) {
      const { middle, reach } = extent
      const away = reach * 2.2
      this.cameras.look({ eye_m: [middle.x + away * 0.42, middle.y + away * 0.4, middle.z + away * 0.85], target_m: middle.toArray() })
    } else {
      const size = Math.max(...g.size_m)
      const middle = (g.low_m + g.high_m) / 2
      this.cameras.look({ eye_m: [size * 0.42, middle + size * 0.42, size * 0.85], target_m: [0, middle, 0] })
      this.cameras.resetPlan()
      this.fitCameras()
    }
    this.draw()
  }

  /** Where the camera stands and what it looks at. */
  place(): CameraPlace {
    return this.cameras.place()
  }

  /** What a camera stays above: land, or the water over it. */
  private levelAt(x: number, z: number): number | null {
    const [land, water] = [this.heightAt(x, z), this.ground?.data.water_m ?? null]
    return land === null ? water : Math.max(land, water ?? land)
  }

  /** Height of the ground in the view at a point of the plan; null beside it. */
  heightAt(x: number, z: number): number | null {
    return this.ground ? heightAt(this.ground.data, x, z) : null
  }

  private get looked(): Looked {
    const { land, placed } = this
    return { camera: this.cameras.current, size: this.size(), ground: this.ground?.data ?? null, land, placed }
  }

  /** The point of a ground under a pixel of the canvas: of one ground alone where its number is given. */
  pick(x: number, y: number, only: number | null = null): Picked | null {
    return pick(this.looked, { x, y }, only)
  }

  /** The point at a height under a pixel of the canvas; null where the ray does not come down, or far off. */
  pickLevel(x: number, y: number, height: number): Point | null {
    return pickLevel(this.looked, { x, y }, height)
  }

  /** The pixel of the canvas a point is seen at; null behind the camera. */
  project(p: Point): Pixel | null {
    return this.projector()(p)
  }

  /** The same for many points: the camera and the size of the canvas are read once. */
  projector(): (p: Point) => Pixel | null {
    return projector(this.looked)
  }

  /** A ring on the ground that a point lies on, as the path of an SVG over the canvas; empty where it is out of sight. */
  ringOnGround(around: Point & { ground?: number }, radius: number, corners: number): string {
    return ringOnGround(this.looked, around, radius, corners)
  }

  /** Of the canvas, in pixels. */
  size(): { width: number; height: number } {
    const { x: width, y: height } = this.renderer.getSize(new Vector2())
    return { width, height }
  }

  /** Draws at the next frame. */
  draw() {
    this.frames.draw()
  }

  /** Pixels drawn for one of the page, each way: on the processor a moving picture is drawn at half its size. */
  private ratio(): number {
    return this.renderer.getPixelRatio() * (this.frames.moving && this.offScreen ? this.frames.size : 1)
  }

  /** What casts shadows, and about where. */
  private casting(): Omit<Cast, 'settled' | 'turn'> {
    const { cameras, frames, ground, obstacles, bodies, placed, plants } = this
    const plan = cameras.mode === 'plan'
    const { x, y, z } = plan ? cameras.middle : cameras.current.position
    const level = (this.land ? this.heightAt(x, z) : null) ?? cameras.middle.y
    const { width, height } = this.size()
    const seen = Math.hypot(width, height) / 2 / cameras.pxPerMetre(height)
    return {
      under: new Vector3(x, level, z),
      high_m: plan ? seen : Math.max(0, y - level),
      plan,
      lastMs: frames.lastMs,
      grounds: [...(ground?.group.visible ? [ground.group] : []), ...placed.which(false)],
      built: [obstacles.group],
      movers: [bodies.group, ...placed.which(true)],
      plants,
      versions: { land: this.landVersion + placed.version, things: plants.version + obstacles.version, moment: this.wind ? this.time : -1 },
    }
  }

  private render() {
    // An empty sky is no picture worth the wait.
    if (!this.ground) return
    const start = performance.now()
    this.refinement.end()
    this.mirror.off()
    const { cameras, frames } = this
    const perspective = cameras.mode === 'perspective'
    const settled = !frames.moving
    seaWhile(settled && this.shaded ? 'settled' : 'moving')
    textureUniforms.uFine.value = settled ? 1 : 0
    lookAtTextures('whole pixels')
    cloudUniforms.uCloudsShade.value = this.shaded ? 1 : 0
    const heightPx = this.size().height * this.ratio()
    cameras.settle()
    const camera = cameras.current
    const scale = cameras.pxPerMetre(heightPx)
    // A plan is drawn from far above, but not through far air.
    lightUniforms.uClear.value = perspective ? 1 : 0
    this.sky.visible = perspective
    // A plan lies on the page's own paper; what is under water dims itself.
    this.water.visible = perspective && this.ground.data.water_m !== null
    if (!perspective) this.renderer.setClearColor(getComputedStyle(document.documentElement).getPropertyValue('--paper').trim() || '#f5f3ec')
    this.beyond.show(perspective && this.land)
    // Sixty pixels wide, whatever the camera: in plan so many metres, in perspective so much at a metre's distance.
    this.ground.scaleLabels((60 * this.ratio()) / scale, !perspective)
    this.placed.scaleLabels((60 * this.ratio()) / scale, !perspective)
    // While it plays before a camera that stands, the same plants are drawn: nothing is done for each of them.
    const drawn = frames.stale || !this.last ? this.plants.prepare({ camera, heightPx, exact: settled }, scale, perspective, frames.triangles, frames.thinned) : this.last
    this.last = drawn
    this.growNap(settled)
    const turn = (more: SwayPoints[]) => {
      if (this.wind) this.swayPass.render(this.renderer, [...this.plants.swaying, ...more])
    }
    turn([])
    if (!this.shaded) this.shadows.off()
    else this.shadows.update(this.renderer, { ...this.casting(), settled, turn }, () => this.waitForGraphics())
    if (this.offScreen) this.offScreen.render(this.renderer, this.scene, camera, settled ? 1 : this.frames.size)
    else this.renderer.render(this.scene, camera)
    if (settled || this.software) this.waitForGraphics()
    const ms = performance.now() - start
    frames.done(ms, drawn.triangles)
    const { metresPerPx, headingDeg } = cameras.bearing(heightPx)
    this.frame = { ...drawn, number: frames.count, ms, settled, metresPerPx: metresPerPx * this.ratio(), headingDeg, nap: this.nap.drawn, refined: 0, refining: settled && this.refines }
    this.onFrame(this.frame)
  }

  /** The nap about the eye, as much of it as there is time for. */
  private growNap(settled: boolean) {
    const { cameras, frames, nap } = this
    const { current: camera } = cameras
    const { x, y, z } = camera.position
    nap.group.visible = this.napped && this.shaded && this.land && this.plants.group.visible && cameras.mode === 'perspective'
    if (nap.group.visible && settled && y - (this.heightAt(x, z) ?? 0) < REACH_M) this.napTiles.want(x, z)
    nap.choose(camera, frames.triangles * (settled ? NAP.rest : NAP.moving), !settled)
    napUniforms.uNapReach.value = nap.nearer
    nap.fill()
  }

  /** Draws on at what is at rest; tells whether there is more to do. */
  private refine(first: boolean): boolean {
    if (!this.refines) return false
    const { refinement, renderer } = this
    if (first) this.beginToRefine()
    const before = refinement.passes
    const more = refinement.step(renderer, () => this.waitForGraphics())
    if (refinement.passes !== before || !more) this.onFrame({ ...this.frame!, ...this.finest!, refined: refinement.passes, refining: more })
    return more
  }

  private beginToRefine() {
    const { cameras, nap, plants, renderer, shadows, scene, sky, water, outlines, streamlines, pools } = this
    const heightPx = this.size().height * this.ratio()
    const camera = cameras.current
    seaWhile('refined')
    lookAtTextures('parts of pixels')
    this.drawMirror()
    const decided = plants.decide({ camera, heightPx, exact: true }, cameras.pxPerMetre(heightPx), cameras.mode === 'perspective', this.software ? REFINED.processor : REFINED.card, FINER)
    nap.choose(camera, this.software ? REFINED_NAP : Infinity, false)
    napUniforms.uNapReach.value = nap.nearer
    this.finest = { ...sum(decided), nap: nap.drawn }
    // Its plants are no longer all there: the next picture must have them again.
    this.last = null
    const after = [sky, water, pools, outlines.group, streamlines.group]
    const turn = (more: SwayPoints[]) => {
      if (this.wind) this.swayPass.render(renderer, [...plants.swaying, ...more])
    }
    this.refinement.begin(renderer, {
      scene, camera, after,
      before: scene.children.filter((o) => o !== plants.group && o !== nap.group && !after.includes(o as Mesh)),
      cut: (most) => [
        ...nap.parts(most).map(([from, to]) => ({ root: nap.group, alone: null, fill: () => nap.fill(from, to) })),
        ...slices(decided, most).map(({ layer, detailOf, counts, near, far }) => ({
          root: plants.group, alone: layer.group,
          fill: () => {
            layer.fillPart(detailOf, counts, near, far)
            turn([])
          },
        })),
      ],
      next: (nth) => shadows.soften(renderer, { ...this.casting(), settled: true, turn }, [jitter(nth, 5), jitter(nth, 7)]),
    })
  }

  /** What the water that is everywhere mirrors, drawn lightly. */
  private drawMirror() {
    const { cameras, water, scene, pools, outlines, streamlines } = this
    const { current: camera } = cameras
    if (!water.visible || !(camera instanceof PerspectiveCamera) || camera.position.y <= water.position.y) return
    const from = mirrored(camera, water.position.y)
    const heightPx = this.size().height * this.ratio()
    this.plants.prepare({ camera: from, heightPx, exact: false }, cameras.pxPerMetre(heightPx), true, MIRRORED)
    if (this.wind) this.swayPass.render(this.renderer, this.plants.swaying)
    this.mirror.draw(this.renderer, scene, from, [water, pools, outlines.group, streamlines.group, this.nap.group])
  }

  /** Whether a view at rest goes on to its full detail, or does without shadows as well. */
  setRest(rest: Rest) {
    this.refines = rest === 'refined'
    this.shaded = rest !== 'plain'
    this.draw()
  }

  /** Reading a pixel back waits until the picture is really there, so that the time means something. */
  private waitForGraphics() {
    const gl = this.renderer.getContext()
    gl.readPixels(0, 0, 1, 1, gl.RGBA, gl.UNSIGNED_BYTE, new Uint8Array(4))
  }

  dispose() {
    this.frames.stop()
    this.plants.dispose()
    this.offScreen?.dispose()
    this.shadows.dispose()
    this.refinement.dispose()
    this.mirror.dispose()
    laySoils(this.soils, null)
    this.swayPass.dispose()
    this.ground?.dispose()
    this.outlines.clear()
    this.streamlines.clear()
    setFlow(null)
    this.obstacles.dispose()
    this.bodies.dispose()
    this.placed.dispose()
    for (const pool of this.pools.children as Mesh[]) pool.geometry.dispose()
    this.poolMaterial.dispose()
    this.beyond.dispose()
    this.nap.dispose()
    for (const part of [this.sky, this.water]) {
      part.geometry.dispose()
      ;(part.material as ShaderMaterial).dispose()
    }
    this.cameras.dispose()
    this.renderer.dispose()
  }
}
