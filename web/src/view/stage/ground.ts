import {
  BufferAttribute, BufferGeometry, DoubleSide, Group, Mesh, ShaderMaterial, type IUniform,
} from 'three'
import type { GroundBuffer } from '../../api/buffers'
import { LIGHT_GLSL, lightUniforms } from './light'

const NOISE_GLSL = /* glsl */ `
float hash(vec3 p) {
  p = fract(p * 0.3183099 + 0.1);
  p *= 17.0;
  return fract(p.x * p.y * p.z * (p.x + p.y + p.z));
}
float noise(vec3 x) {
  vec3 i = floor(x), f = fract(x);
  f = f * f * (3.0 - 2.0 * f);
  return mix(mix(mix(hash(i), hash(i + vec3(1,0,0)), f.x), mix(hash(i + vec3(0,1,0)), hash(i + vec3(1,1,0)), f.x), f.y),
             mix(mix(hash(i + vec3(0,0,1)), hash(i + vec3(1,0,1)), f.x), mix(hash(i + vec3(0,1,1)), hash(i + vec3(1,1,1)), f.x), f.y), f.z) * 2.0 - 1.0;
}`

const VERTEX = /* glsl */ `
attribute vec3 aColour;
attribute float aMask;
varying vec3 vColour;
varying vec3 vPoint;
varying vec3 vNormal;
varying float vMask;
void main() {
  vColour = aColour * aColour;
  vPoint = position;
  vNormal = normal;
  vMask = aMask;
  gl_Position = projectionMatrix * modelViewMatrix * vec4(position, 1.0);
}`

const FRAGMENT = /* glsl */ `
${LIGHT_GLSL}
${NOISE_GLSL}
uniform float uContour;
uniform float uMask;
uniform float uCut;
varying vec3 vColour;
varying vec3 vPoint;
varying vec3 vNormal;
varying float vMask;

// cividis, fitted by a polynomial of our own to the published table's ends and middle.
vec3 cividis(float t) {
  vec3 a = vec3(0.0, 0.135, 0.305), b = vec3(0.36, 0.37, 0.43), c = vec3(0.62, 0.59, 0.46), d = vec3(0.995, 0.91, 0.22);
  vec3 s = t < 0.35 ? mix(a, b, t / 0.35) : t < 0.65 ? mix(b, c, (t - 0.35) / 0.3) : mix(c, d, (t - 0.65) / 0.35);
  return pow(s, vec3(2.2));
}

void main() {
  vec3 n = normalize(vNormal);
  vec3 toPoint = vPoint - cameraPosition;
  float distance = length(toPoint);
  vec3 albedo = vColour;
  if (uCut > 0.5) {
    albedo = vec3(0.10, 0.075, 0.052) * (1.0 + 0.35 * noise(vPoint * vec3(0.25, 1.6, 0.25)));
  } else {
    float steep = smoothstep(0.93, 0.62, n.y);
    float layers = noise(vPoint * vec3(0.3, 1.3, 0.3)) * 0.6 + noise(vPoint * vec3(0.8, 3.4, 0.8)) * 0.4;
    float near = 1.0 / (1.0 + distance * distance * 0.0012);
    float fine = noise(vPoint * 3.1) * 0.6 + noise(vPoint * 9.7) * 0.4 * near;
    albedo *= clamp(1.0 + 0.2 * fine * max(near, 0.35) + steep * 0.4 * layers, 0.5, 1.5);
    vec3 tilt = vec3(noise(vPoint * 2.3 + 7.0), noise(vPoint * vec3(1.0, 3.0, 1.0) + 31.0) * steep, noise(vPoint * 2.3 + 53.0));
    n = normalize(n + tilt * (0.14 + 0.3 * steep));
  }
  vec3 colour = lit(albedo, vec3(0.0), n, 0.9);
  if (uMask > 0.5 && uCut < 0.5) {
    colour = mix(colour * 0.35, cividis(vMask) * (0.55 + 0.45 * max(dot(n, uSun), 0.0)), 0.82);
  }
  if (uContour > 0.0 && uCut < 0.5) {
    float h = vPoint.y / uContour;
    float w = fwidth(h);
    float line = 1.0 - smoothstep(0.6, 1.5, abs(fract(h + 0.5) - 0.5) / w);
    float fifth = abs(fract(h / 5.0 + 0.5) - 0.5) * 5.0 < 0.5 ? 1.0 : 0.5;
    colour = mix(colour, colour * 0.45, line * fifth * 0.55 * smoothstep(0.6, 0.2, w));
  }
  gl_FragColor = vec4(toned(aired(colour, toPoint)), 1.0);
  #include <colorspace_fragment>
}`

/** The terrain of the view with its cut edge, its contour lines and a mask laid over it. */
export class GroundMesh {
  readonly group = new Group()
  readonly data: GroundBuffer
  private readonly uniforms: Record<string, IUniform>
  private readonly mask: BufferAttribute
  private readonly parts: { geometry: BufferGeometry; material: ShaderMaterial }[] = []

  constructor(data: GroundBuffer) {
    this.data = data
    this.uniforms = { ...lightUniforms, uContour: { value: 0 }, uMask: { value: 0 } }
    const surface = surfaceGeometry(data)
    this.mask = surface.getAttribute('aMask') as BufferAttribute
    this.add(surface, 0)
    this.add(edgeGeometry(data), 1)
  }

  private add(geometry: BufferGeometry, cut: number) {
    const uniforms = { ...this.uniforms, uCut: { value: cut } }
    const material = new ShaderMaterial({
      vertexShader: VERTEX, fragmentShader: FRAGMENT, uniforms, side: cut ? DoubleSide : undefined,
    })
    this.group.add(new Mesh(geometry, material))
    this.parts.push({ geometry, material })
  }

  /** Metres between contour lines; 0 for none. */
  contour(metres: number) {
    this.uniforms.uContour.value = metres
  }

  /** Lays a value from 0 to 1 for each sample over the ground; null takes it away. */
  showMask(value: ((index: number) => number) | null) {
    this.uniforms.uMask.value = value ? 1 : 0
    if (!value) return
    const array = this.mask.array as Float32Array
    for (let i = 0; i < array.length; i++) array[i] = value(i)
    this.mask.needsUpdate = true
  }

  dispose() {
    for (const { geometry, material } of this.parts) {
      geometry.dispose()
      material.dispose()
    }
  }
}

function surfaceGeometry(g: GroundBuffer): BufferGeometry {
  const { nx, nz, heights } = g
  const [dx, dz] = [g.size_m[0] / (nx - 1), g.size_m[1] / (nz - 1)]
  const positions = new Float32Array(nx * nz * 3)
  const normals = new Float32Array(nx * nz * 3)
  for (let row = 0; row < nz; row++) {
    for (let column = 0; column < nx; column++) {
      const i = row * nx + column
      positions.set([column * dx - g.size_m[0] / 2, heights[i], row * dz - g.size_m[1] / 2], i * 3)
      const [west, east] = [Math.max(column - 1, 0), Math.min(column + 1, nx - 1)]
      const [north, south] = [Math.max(row - 1, 0), Math.min(row + 1, nz - 1)]
      const sx = (heights[row * nx + east] - heights[row * nx + west]) / ((east - west) * dx)
      const sz = (heights[south * nx + column] - heights[north * nx + column]) / ((south - north) * dz)
      const length = Math.hypot(sx, 1, sz)
      normals.set([-sx / length, 1 / length, -sz / length], i * 3)
    }
  }
  const index = new Uint32Array((nx - 1) * (nz - 1) * 6)
  let k = 0
  for (let row = 0; row < nz - 1; row++) {
    for (let column = 0; column < nx - 1; column++) {
      const nw = row * nx + column
      const sw = nw + nx
      index.set([nw, sw + 1, nw + 1, nw, sw, sw + 1], k)
      k += 6
    }
  }
  const colours = new Float32Array(nx * nz * 3)
  for (let i = 0; i < nx * nz; i++) for (let c = 0; c < 3; c++) colours[i * 3 + c] = g.colours[i * 4 + c] / 255
  return geometry(positions, normals, colours, index)
}

/** The sides of the block of ground, down to a little under its lowest point. */
function edgeGeometry(g: GroundBuffer): BufferGeometry {
  const { nx, nz } = g
  const bottom = g.low_m - 0.04 * Math.max(g.high_m - g.low_m, 10)
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
  return geometry(positions, normals, new Float32Array(positions.length).fill(0.3), new Uint32Array(index))
}

function geometry(positions: Float32Array, normals: Float32Array, colours: Float32Array, index: Uint32Array) {
  const out = new BufferGeometry()
  out.setAttribute('position', new BufferAttribute(positions, 3))
  out.setAttribute('normal', new BufferAttribute(normals, 3))
  out.setAttribute('aColour', new BufferAttribute(colours, 3))
  out.setAttribute('aMask', new BufferAttribute(new Float32Array(positions.length / 3), 1))
  out.setIndex(new BufferAttribute(index, 1))
  return out
}
