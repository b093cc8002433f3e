import { Color, PerspectiveCamera, SRGBColorSpace, Scene, WebGLRenderer, type ShaderMaterial } from 'three'
import type { PlantsBuffer } from '../api/buffers'
import { FormBatch } from '../view/stage/batch'
import { inBlocks } from '../view/stage/blocks'
import { alone } from '../view/stage/light'
import { drawsInSoftware } from '../view/stage/software'
import { materialOf } from '../view/stage/skins'
import { bodyMaterial } from '../view/stage/stones'
import type { SpeciesMeshes } from '../view/stage/species'

const TURN_PER_S = 0.35
const VIEW_DEG = 24

/** One plant on a plain ground of light, drawn with the view's own materials. */
export class TurntableStage {
  private readonly renderer: WebGLRenderer
  private readonly scene = new Scene()
  private readonly camera = new PerspectiveCamera(VIEW_DEG, 1, 0.001, 500)
  private shown: { batch: FormBatch; material: ShaderMaterial; look: SpeciesMeshes } | null = null
  private angle = 0.6
  private last = 0
  private frame = 0
  /** Where the processor draws, turning by itself would take it from all else. */
  private readonly slow: boolean
  private readonly still = window.matchMedia('(prefers-reduced-motion: reduce)').matches

  constructor(canvas: HTMLCanvasElement) {
    this.renderer = new WebGLRenderer({ canvas, antialias: true, alpha: true })
    this.renderer.outputColorSpace = SRGBColorSpace
    this.renderer.setClearColor(new Color(0, 0, 0), 0)
    this.slow = drawsInSoftware()
    const tick = (now: number) => {
      this.frame = requestAnimationFrame(tick)
      // A gentle turn needs no more than some twenty pictures a second.
      if (this.still || this.slow || now - this.last < 45) return
      this.angle += (TURN_PER_S * Math.min(now - this.last, 100)) / 1000
      this.last = now
      this.draw()
    }
    this.frame = requestAnimationFrame(tick)
  }

  show(look: SpeciesMeshes, form: number) {
    this.drop()
    const mesh = look.meshes[0][form]
    if (!mesh) return
    const material = alone(mesh.uvs ? materialOf(look) : bodyMaterial(look))
    const batch = new FormBatch(mesh, material)
    const one: PlantsBuffer = {
      count: 1, tally: {} as PlantsBuffer['tally'], positions: new Float32Array(3), sizes: new Float32Array([1]),
      rotations: new Int16Array([0, 0, 0, 32767]), forms: new Uint16Array(1), tints: new Uint16Array([0x8080]),
    }
    batch.begin(1)
    batch.push(inBlocks(one), 0, one.rotations)
    batch.end()
    this.scene.add(batch.mesh)
    this.shown = { batch, material, look }
    this.draw()
  }

  turn(by: number) {
    this.angle -= by
    this.draw()
  }

  private draw() {
    if (!this.shown) return
    const { clientWidth: w, clientHeight: h } = this.renderer.domElement
    if (w === 0 || h === 0) return
    const size = this.renderer.domElement
    if (size.width !== w || size.height !== h) this.renderer.setSize(w, h, false)
    const { height_m, radius_m } = this.shown.look.species
    const half = Math.tan((VIEW_DEG * Math.PI) / 360)
    const aspect = w / h
    const high = Math.max(height_m, radius_m * 0.7)
    const away = Math.max((high * 0.62) / half, (radius_m * 1.15) / (half * aspect)) + radius_m
    const pitch = 0.24
    this.camera.aspect = aspect
    this.camera.position.set(Math.sin(this.angle) * away * Math.cos(pitch), high * 0.45 + away * Math.sin(pitch), Math.cos(this.angle) * away * Math.cos(pitch))
    this.camera.near = away * 0.02
    this.camera.far = away * 4
    this.camera.lookAt(0, high * 0.45, 0)
    this.camera.updateProjectionMatrix()
    this.renderer.render(this.scene, this.camera)
  }

  private drop() {
    if (!this.shown) return
    this.scene.remove(this.shown.batch.mesh)
    this.shown.batch.dispose()
    this.shown.material.dispose()
    this.shown = null
  }

  dispose() {
    cancelAnimationFrame(this.frame)
    this.drop()
    this.renderer.dispose()
  }
}
