import { BufferAttribute, BufferGeometry, Group, Matrix4, Mesh, Quaternion, Ray, Raycaster, Vector2, Vector3, type DataTexture, type IUniform, type ShaderMaterial } from 'three'
import type { GroundBuffer, MeshGroundBuffer } from '../../api/buffers'
import { carriedTo } from './carried'
import type { RideNow } from './sway/ways'
import { grainTexture } from './grain'
import { GroundMesh } from './ground'
import { groundMaterial, restUniforms } from './groundMaterial'
import { heightAt, pickGround, slopeAt } from './grid'
import { lightUniforms } from './light'
import { rampTexture, type Overlay } from './overlay'

/** Where a ground beside the land stands. */
export interface GroundPlace {
  x_m: number
  y_m: number
  z_m: number
  turn_deg: number
}

/** A point of a ground that was pointed at, in the scene. */
export interface Picked {
  x: number
  y: number
  z: number
  /** The ground's number; 0 is the land. */
  ground: number
  /** Steepness there, degrees. */
  slope: number
  /** What is laid over it there, in its unit; null where nothing is. */
  laid: number | null
}

export type PlacedBuffer = { kind: 'terrain'; data: GroundBuffer } | { kind: 'mesh'; data: MeshGroundBuffer }

let grain: ReturnType<typeof grainTexture> | null = null

/** A mesh ground in its own frame. */
class MeshGround {
  readonly group = new Group()
  private readonly uniforms: Record<string, IUniform>
  private readonly material: ShaderMaterial
  private readonly mesh: Mesh
  private laid: Overlay | null = null
  readonly data: MeshGroundBuffer

  constructor(data: MeshGroundBuffer) {
    this.data = data
    grain ??= grainTexture()
    this.uniforms = {
      ...restUniforms(),
      ...lightUniforms, uContour: { value: 0 }, uGrain: { value: grain }, uOverlay: { value: 0 }, uOverlayMap: { value: null },
      uRamp: { value: null }, uSize: { value: new Vector2(1, 1) },
    }
    this.material = groundMaterial(this.uniforms, false)
    const geometry = new BufferGeometry()
    geometry.setAttribute('position', new BufferAttribute(data.positions, 3))
    geometry.setAttribute('normal', new BufferAttribute(data.normals, 3))
    const colours = new Float32Array(data.vertices * 3)
    for (let i = 0; i < data.vertices; i++) for (let c = 0; c < 3; c++) colours[i * 3 + c] = data.colours[i * 4 + c] / 255
    geometry.setAttribute('aColour', new BufferAttribute(colours, 3))
    geometry.setAttribute('aEarths', new BufferAttribute(data.earths, 4, true))
    geometry.setAttribute('aLaid', new BufferAttribute(new Float32Array(data.vertices), 1))
    geometry.setIndex(new BufferAttribute(data.indices, 1))
    geometry.computeBoundingSphere()
    geometry.computeBoundingBox()
    this.mesh = new Mesh(geometry, this.material)
    this.group.add(this.mesh)
  }

  /** What is drawn on it lies as where it stands at rest; null while it does. */
  carried(rest: Matrix4 | null) {
    this.uniforms.uCarried.value = rest ? 1 : 0
    if (rest) (this.uniforms.uRest.value as Matrix4).copy(rest)
  }

  contour(metres: number) {
    this.uniforms.uContour.value = metres
  }

  /** Lays a value at each vertex over it; null takes it away. */
  lay(overlay: Overlay | null) {
    this.laid = overlay
    ;(this.uniforms.uRamp.value as DataTexture | null)?.dispose()
    this.uniforms.uRamp.value = overlay ? rampTexture(overlay.scale) : null
    this.uniforms.uOverlay.value = overlay ? 2 : 0
    if (!overlay) return
    const laid = this.mesh.geometry.getAttribute('aLaid')
    const scale = 1 / (overlay.high - overlay.low)
    for (let i = 0; i < overlay.values.length; i++) {
      const value = (overlay.values[i] - overlay.low) * scale
      // Below the low end lies the colour of what is unknown.
      laid.array[i] = Number.isNaN(value) ? -1 : Math.min(1, Math.max(0, value))
    }
    laid.needsUpdate = true
  }

  pick(ray: Ray): { point: Vector3; slope: number; laid: number | null } | null {
    const [hit] = new Raycaster(ray.origin, ray.direction).intersectObject(this.mesh)
    if (!hit?.face) return null
    const { a, b, c } = hit.face
    const [u, v, w] = hit.barycoord?.toArray() ?? [1, 0, 0]
    const between = (values: Float32Array) => values[a] * u + values[b] * v + values[c] * w
    return { point: hit.point, slope: between(this.data.slopes), laid: this.laid && between(this.laid.values) }
  }

  dispose() {
    this.lay(null)
    this.mesh.geometry.dispose()
    this.material.dispose()
  }
}

/** The grounds beside the land, where they stand. */
export class PlacedGrounds {
  readonly group = new Group()
  /** Counts up when other shadows fall from those that stay. */
  version = 0
  private readonly parts = new Map<number, { from: PlacedBuffer['data']; made: MeshGround | GroundMesh; stand: Group; place: GroundPlace }>()
  private step = 0
  private rides: RideNow[] = []

  /** Puts a ground in or moves it; null takes it out. */
  set(id: number, buffer: PlacedBuffer | null, place: GroundPlace) {
    let known = this.parts.get(id)
    // A terrain that was sculpted keeps the tiles that are as they were.
    if (known?.made instanceof GroundMesh && buffer?.kind === 'terrain' && known.from !== buffer.data && known.made.follow(buffer.data)) known.from = buffer.data
    if (known && known.from !== buffer?.data) {
      this.version++
      this.group.remove(known.stand)
      known.made.dispose()
      this.parts.delete(id)
      known = undefined
    }
    if (!buffer) return
    if (!known) {
      const made = buffer.kind === 'mesh' ? new MeshGround(buffer.data) : new GroundMesh(buffer.data, 2)
      made.contour(this.step)
      const stand = new Group()
      stand.add(made.group)
      this.group.add(stand)
      known = { from: buffer.data, made, stand, place }
      this.parts.set(id, known)
    }
    known.place = place
    this.version++
    this.stand(id)
    if (known.made instanceof GroundMesh) known.made.standAt(place.y_m)
  }

  /** Moves grounds to where they are at a moment; the others stand where they are. */
  carry(rides: RideNow[]) {
    if (rides.length === 0 && this.rides.length === 0) return
    const which = (all: RideNow[]) => all.map((r) => r.ground).join()
    if (which(rides) !== which(this.rides)) this.version++
    this.rides = rides
    for (const id of this.parts.keys()) this.stand(id)
  }

  private stand(id: number) {
    const { stand, place, made } = this.parts.get(id)!
    const ride = this.rides.find((r) => r.ground === id)
    // Clockwise seen from above is against the sense of a turn about Y.
    stand.position.set(place.x_m, place.y_m, place.z_m)
    stand.quaternion.setFromAxisAngle(new Vector3(0, 1, 0), (-place.turn_deg * Math.PI) / 180)
    stand.updateMatrixWorld(true)
    made.carried(ride ? stand.matrixWorld : null)
    if (!ride) return
    stand.applyMatrix4(carriedTo(ride))
    stand.updateMatrixWorld(true)
  }

  /** Those that move at the moment that is shown, or those that stay. */
  which(move: boolean): Group[] {
    return [...this.parts].flatMap(([id, { stand }]) => (this.rides.some((r) => r.ground === id) === move ? [stand] : []))
  }

  contour(metres: number) {
    this.step = metres
    this.parts.forEach(({ made }) => made.contour(metres))
  }

  /** Fits the heights on the contours to the picture; see `scaleLabels`. */
  scaleLabels(width: number, plan: boolean) {
    this.parts.forEach(({ made }) => {
      if (made instanceof GroundMesh) made.scaleLabels(width, plan)
    })
  }

  /** Lays values over the grounds that are named; takes them off the others. */
  lay(overlays: Map<number, Overlay>) {
    this.parts.forEach(({ made }, id) => {
      made.lay(overlays.get(id) ?? null)
    })
  }

  /** The height of a terrain above a point of the plan, null beside it; of a mesh that has no such height, `level`. */
  heightOn(id: number, x: number, z: number, level: number): number | null {
    const part = this.parts.get(id)
    if (!part || part.made instanceof MeshGround) return part ? level : null
    const at = part.stand.worldToLocal(new Vector3(x, 0, z))
    const y = heightAt(part.made.data, at.x, at.z)
    return y === null ? null : y + part.stand.position.y
  }

  /** The nearest point along a ray: of one ground alone where its number is given. */
  pick(ray: Ray, only: number | null = null): (Picked & { away: number }) | null {
    let best: (Picked & { away: number }) | null = null
    this.parts.forEach(({ made, stand }, ground) => {
      if (only !== null && only !== ground) return
      let found: { point: Vector3; slope: number; laid: number | null } | null
      if (made instanceof MeshGround) {
        found = made.pick(ray)
      } else {
        const local = ray.clone().applyMatrix4(new Matrix4().copy(stand.matrixWorld).invert())
        const at = pickGround(made.data, local)
        const point = at && stand.localToWorld(new Vector3(at.x, at.y, at.z))
        found = at && { point: point!, slope: slopeAt(made.data, at.x, at.z) ?? 0, laid: made.laidAt(at.x, at.z) }
      }
      const away = found?.point.distanceTo(ray.origin) ?? Infinity
      if (found && away < (best?.away ?? Infinity)) {
        best = { x: found.point.x, y: found.point.y, z: found.point.z, ground, slope: found.slope, laid: found.laid, away }
      }
    })
    return best
  }

  /** The box around all of them in the scene, as its middle and half its diagonal; null when there are none. */
  extent(): { middle: Vector3; reach: number } | null {
    let low = new Vector3(Infinity, Infinity, Infinity)
    let high = new Vector3(-Infinity, -Infinity, -Infinity)
    this.parts.forEach(({ from, stand }) => {
      const corners =
        'triangles' in from
          ? [from.low_m, from.high_m]
          : [[-from.size_m[0] / 2, from.low_m, -from.size_m[1] / 2], [from.size_m[0] / 2, from.high_m, from.size_m[1] / 2]]
      for (let i = 0; i < 8; i++) {
        const p = new Vector3(corners[i & 1][0], corners[(i >> 1) & 1][1], corners[i >> 2][2])
        p.applyQuaternion(stand.getWorldQuaternion(new Quaternion())).add(stand.position)
        low = low.min(p)
        high = high.max(p)
      }
    })
    if (this.parts.size === 0) return null
    return { middle: low.clone().add(high).multiplyScalar(0.5), reach: high.distanceTo(low) / 2 }
  }

  dispose() {
    this.parts.forEach(({ made }) => made.dispose())
    this.parts.clear()
  }
}
