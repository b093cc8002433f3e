import {
  BufferAttribute, BufferGeometry, Group, Mesh, Vector2, type Matrix4, type DataTexture, type IUniform, type LOD, type ShaderMaterial,
} from 'three'
import type { GroundBuffer } from '../../api/buffers'
import { grainTexture } from './grain'
import { groundMaterial, restUniforms } from './groundMaterial'
import { bottomOf, followTiles, makeTiles } from './groundTiles'
import { contourLabels, disposeLabels, labelGroup, scaleLabels } from './contourLabels'
import { sampleAt } from './grid'
import { lightUniforms } from './light'
import { soilUniforms } from './soils'
import { overlayTexture, rampTexture, type Overlay } from './overlay'

let grain: ReturnType<typeof grainTexture> | null = null

/** The terrain of the view with its cut edge, its contour lines and what is laid over it. */
export class GroundMesh {
  readonly group = new Group()
  data: GroundBuffer
  private readonly uniforms: Record<string, IUniform>
  private readonly materials: ShaderMaterial[]
  private readonly tiles: LOD[]
  private edge: BufferGeometry
  private readonly edgeMesh: Mesh
  private labels: Group | null = null
  private step = 0
  private base = 0
  private labelTimer = 0
  private laid: Overlay | null = null

  /** `soils` are what outlines lay over it. */
  constructor(data: GroundBuffer, finer: number, soils = soilUniforms()) {
    grain ??= grainTexture()
    this.data = data
    this.uniforms = {
      ...restUniforms(),
      ...lightUniforms,
      ...soils,
      uBears: { value: 1 },
      uContour: { value: 0 },
      uGrain: { value: grain },
      uOverlay: { value: 0 },
      uOverlayMap: { value: null },
      uRamp: { value: null },
      uSize: { value: new Vector2(...data.size_m) },
    }
    this.materials = [groundMaterial(this.uniforms, false), groundMaterial(this.uniforms, true)]
    this.tiles = makeTiles(data, this.materials[0], finer)
    this.edge = edgeGeometry(data)
    this.edgeMesh = new Mesh(this.edge, this.materials[1])
    this.group.add(...this.tiles, this.edgeMesh)
  }

  /**
   * Takes other heights and colours of a ground of the same shape, rewriting only the tiles where they differ; false when
   * the shape is another.
   */
  follow(data: GroundBuffer): boolean {
    const was = this.data
    if (data.nx !== was.nx || data.nz !== was.nz || data.size_m.some((s, i) => s !== was.size_m[i]) || data.water_m !== was.water_m) return false
    this.data = data
    followTiles(this.tiles, was, data)
    this.edge.dispose()
    this.edge = edgeGeometry(data)
    this.edgeMesh.geometry = this.edge
    // Heights on the contours are written anew once the ground has come to rest.
    window.clearTimeout(this.labelTimer)
    this.labelTimer = window.setTimeout(() => this.label(), 400)
    return true
  }

  /** What is drawn on it lies as where it stands at rest; null while it does. */
  carried(rest: Matrix4 | null) {
    this.uniforms.uCarried.value = rest ? 1 : 0
    if (rest) (this.uniforms.uRest.value as Matrix4).copy(rest)
  }

  /** Metres between contour lines; 0 for none. */
  contour(metres: number) {
    if (metres === this.step) return
    this.step = metres
    this.uniforms.uContour.value = metres
    this.label()
  }

  /** Says how high its own zero stands in the scene: contour lines lie at heights of the scene. */
  standAt(base: number) {
    if (base === this.base) return
    this.base = base
    this.label()
  }

  private label() {
    if (this.labels) {
      this.group.remove(this.labels)
      disposeLabels(this.labels)
    }
    this.labels = labelGroup(contourLabels(this.data, this.step, this.base))
    this.group.add(this.labels)
  }

  /** Fits the heights on the contours to the picture; see `scaleLabels`. */
  scaleLabels(width: number, plan: boolean) {
    if (this.labels) scaleLabels(this.labels, width, plan)
  }

  /** What is laid over a point of its own plan; null where nothing is. */
  laidAt(x: number, z: number): number | null {
    return this.laid && sampleAt(this.data, this.laid.values, x, z)
  }

  /** Lays values over the ground; null takes them away. */
  lay(overlay: Overlay | null) {
    this.clear()
    this.laid = overlay
    this.uniforms.uOverlay.value = overlay ? 1 : 0
    if (!overlay) return
    this.uniforms.uOverlayMap.value = overlayTexture(overlay, this.data.nx, this.data.nz)
    this.uniforms.uRamp.value = rampTexture(overlay.scale)
  }

  private clear() {
    for (const name of ['uOverlayMap', 'uRamp']) {
      ;(this.uniforms[name].value as DataTexture | null)?.dispose()
      this.uniforms[name].value = null
    }
  }

  private *geometries() {
    for (const tile of this.tiles) for (const level of tile.levels) yield (level.object as Mesh).geometry
  }

  dispose() {
    this.clear()
    window.clearTimeout(this.labelTimer)
    if (this.labels) disposeLabels(this.labels)
    for (const geometry of this.geometries()) geometry.dispose()
    this.edge.dispose()
    for (const m of this.materials) m.dispose()
  }
}

/** The sides of the block of ground, down to a little under its lowest point. */
function edgeGeometry(g: GroundBuffer): BufferGeometry {
  const { nx, nz } = g
  const bottom = bottomOf(g)
  const ring: number[] = []
  for (let c = 0; c < nx; c++) ring.push(c)
  for (let r = 1; r < nz; r++) ring.push(r * nx + nx - 1)
  for (let c = nx - 2; c >= 0; c--) ring.push((nz - 1) * nx + c)
  for (let r = nz - 2; r >= 0; r--) ring.push(r * nx)
  const positions = new Float32Array(ring.length * 6)
  const normals = new Float32Array(ring.length * 6)
  const index: number[] = []
  ring.forEach((sample, i) => {
    const [column, row] = [sample % nx, Math.floor(sample / nx)]
    const x = (column / (nx - 1) - 0.5) * g.size_m[0]
    const z = (row / (nz - 1) - 0.5) * g.size_m[1]
    positions.set([x, g.heights[sample], z, x, bottom, z], i * 6)
    const n = [column === 0 ? -1 : column === nx - 1 ? 1 : 0, 0, row === 0 ? -1 : row === nz - 1 ? 1 : 0]
    normals.set([...n, ...n], i * 6)
    if (i + 1 < ring.length) index.push(i * 2, i * 2 + 2, i * 2 + 1, i * 2 + 1, i * 2 + 2, i * 2 + 3)
  })
  const out = new BufferGeometry()
  out.setAttribute('position', new BufferAttribute(positions, 3))
  out.setAttribute('normal', new BufferAttribute(normals, 3))
  out.setAttribute('aColour', new BufferAttribute(new Float32Array(positions.length).fill(0.3), 3))
  out.setIndex(new BufferAttribute(new Uint32Array(index), 1))
  return out
}
