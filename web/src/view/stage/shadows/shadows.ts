import { Box3, Sphere, Vector3, type Mesh, type Object3D, type Material, type WebGLRenderer } from 'three'
import { lightUniforms } from '../light'
import type { PlantLayers } from '../plantLayers'
import type { SwayPoints } from '../sway/pass'
import { plainCaster } from './casterMaterials'
import { AboveMap, ShadowMap } from './maps'
import { shadowUniforms } from './uniforms'

/** How far each map about the eye reaches, metres, and by how much more for each metre that the eye is above the ground. */
const REACH_M = [16, 80, 320]
const WIDER = [1, 3, 4]
/** A map is drawn anew when the eye is further from its middle than this share of its reach: at rest, and while it moves. */
const STRAYS = 0.3
const STRAYS_MOVING = 0.7
/** Shadows may take this share of the time of a picture of a movement; what would take longer waits until it rests. */
const MOVING_SHARE = 0.25
/** Of a layer, near by: with a graphics card, and on the processor. */
const MESH_TRIANGLES = { card: 1_500_000, processor: 200_000 }
/** Of the sun's disc, seen from here, radians: half of 0.533 degrees. */
const SUN_RADIUS = 0.00465
/** The sun throws none from so low, or through so much cloud. */
const LOWEST_SINE = 0.01
const MOST_OVERCAST = 0.95

/** What a picture casts shadows with. */
export interface Cast {
  /** The point on the ground that is looked at closest, and how high above it the eye is; in plan half of what is seen. */
  under: Vector3
  high_m: number
  plan: boolean
  settled: boolean
  /** How long the last picture took, milliseconds. */
  lastMs: number
  grounds: Object3D[]
  built: Object3D[]
  /** What has another place at every moment. */
  movers: Object3D[]
  plants: PlantLayers
  /** Count up with what casts: the land, all that stands on it, and the moment that is shown. */
  versions: { land: number; things: number; moment: number }
  /** Asks the wind for plants before they are drawn. */
  turn(points: SwayPoints[]): void
}

/** Shadows of the sun: of plants and what is built, sharper the nearer they are; of the land; and of what moves. */
export class Shadows {
  private readonly near = REACH_M.map((_, nth) => new ShadowMap(nth))
  private readonly land = new ShadowMap(3)
  private readonly moving = new ShadowMap(4)
  private readonly above = new AboveMap()
  private readonly plain = plainCaster()
  private readonly software: boolean
  private readonly sun = new Vector3()
  private seen = { land: -1, things: -1, moment: -2 }

  /** On the processor what was drawn must be waited for, to know how long it took: `wait`. */
  constructor(software: boolean) {
    this.software = software
  }

  /** Draws anew what must be. In a picture of a movement that is only what is quickly done; all else waits until it rests. */
  update(renderer: WebGLRenderer, cast: Cast, wait: () => void) {
    const sun = lightUniforms.uSun.value
    if (sun.y <= LOWEST_SINE || lightUniforms.uOvercast.value > MOST_OVERCAST) {
      this.off()
      return
    }
    shadowUniforms.uShadowSoft.value = cast.settled || !this.software ? 1 : 0
    this.outdate(cast.versions, sun)
    let left = cast.settled ? Infinity : cast.lastMs * MOVING_SHARE
    const draw = (map: ShadowMap, work: () => void) => {
      if ((map.costMs ?? Infinity) > left) return
      const start = performance.now()
      work()
      if (this.software) wait()
      map.costMs = performance.now() - start
      left -= map.costMs
    }
    const strays = cast.settled ? STRAYS : STRAYS_MOVING
    this.drawMovers(renderer, cast.movers, draw)
    for (const [level, map] of this.near.entries()) {
      const reach = cast.plan ? cast.high_m : REACH_M[level] + cast.high_m * WIDER[level]
      if (cast.plan && level > 0) map.off()
      else if (map.misses(cast.under, reach, strays)) draw(map, () => this.drawNear(renderer, map, reach, cast))
    }
    if (this.land.stale) draw(this.land, () => this.drawGrounds(renderer, this.land, cast.grounds))
  }

  /** Throws none until it is brought up to date again. */
  off() {
    for (const m of [...this.near, this.land, this.moving]) m.off()
    this.above.off()
  }

  private outdate(versions: Cast['versions'], sun: Vector3) {
    const turned = !this.sun.equals(sun)
    this.sun.copy(sun)
    const { land, things, moment } = this.seen
    if (turned || versions.land !== land) this.land.outdate()
    // Plants stand on the land.
    if (turned || versions.things !== things || versions.land !== land) for (const m of this.near) m.outdate()
    // Only near by does one see them bend.
    if (versions.moment !== moment) this.near[0].outdate()
    this.seen = { ...versions }
  }

  /** Draws what is near once more, from another point of the sun's disc: `aside` are from -0.5 to 0.5. */
  soften(renderer: WebGLRenderer, cast: Cast, aside: [number, number]) {
    const [map] = this.near
    if (map.stale) return
    const [across, up] = aside.map((c) => c * 2 * SUN_RADIUS)
    const right = new Vector3(0, 1, 0).cross(this.sun).normalize()
    const sun = this.sun.clone().addScaledVector(right, across).addScaledVector(new Vector3().crossVectors(this.sun, right), up).normalize()
    this.drawNear(renderer, map, map.reach, cast, sun)
  }

  private drawNear(renderer: WebGLRenderer, map: ShadowMap, reach: number, { under, built, plants, turn }: Cast, sun = this.sun) {
    map.lay(under, reach, sun)
    const finest = map === this.near[0]
    plants.cast(map, finest, this.software ? MESH_TRIANGLES.processor : MESH_TRIANGLES.card, (casting) => {
      if (finest) turn(plants.casterSwaying)
      this.swap(built, () => {
        map.draw(renderer, [...built, ...casting])
        if (finest && sun === this.sun) this.above.draw(renderer, under, map.reach, [...built, ...casting])
      })
    })
  }

  private drawMovers(renderer: WebGLRenderer, movers: Object3D[], draw: (map: ShadowMap, work: () => void) => void) {
    if (movers.every((m) => m.children.length === 0)) this.moving.off()
    else draw(this.moving, () => this.drawGrounds(renderer, this.moving, movers))
  }

  private drawGrounds(renderer: WebGLRenderer, map: ShadowMap, grounds: Object3D[]) {
    const box = new Box3()
    for (const g of grounds) box.expandByObject(g)
    if (box.isEmpty()) return map.off()
    const { center, radius } = box.getBoundingSphere(new Sphere())
    map.lay(center, radius)
    this.swap(grounds, () => map.draw(renderer, grounds))
  }

  /** Draws with all that is below some things made plain, without what is written on them. */
  private swap(roots: Object3D[], draw: () => void) {
    const before: [Mesh, Material | Material[]][] = []
    const hidden: Object3D[] = []
    for (const root of roots) {
      root.traverseVisible((o) => {
        if ('isSprite' in o || 'isLine' in o) hidden.push(o)
        if (!('isMesh' in o)) return
        const mesh = o as Mesh
        before.push([mesh, mesh.material])
        mesh.material = this.plain
      })
    }
    for (const o of hidden) o.visible = false
    draw()
    for (const o of hidden) o.visible = true
    for (const [mesh, material] of before) mesh.material = material
  }

  dispose() {
    for (const m of [...this.near, this.land, this.moving, this.above]) m.dispose()
    this.plain.dispose()
  }
}
