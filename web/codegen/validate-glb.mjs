// Checks a GLB with the Khronos validator. It does not know EXT_mesh_gpu_instancing, so the crates read that back themselves.
import { readFileSync } from 'node:fs'
import validator from 'gltf-validator'

const report = await validator.validateBytes(new Uint8Array(readFileSync(process.argv[2])))
const { numErrors, numWarnings, messages } = report.issues
for (const m of messages.filter((m) => m.severity <= 1).slice(0, 20)) console.error(`${m.code} ${m.pointer ?? ''}: ${m.message}`)
console.log(`GLB: ${numErrors} errors, ${numWarnings} warnings, ${report.info.totalTriangleCount} triangles in its meshes`)
process.exit(numErrors > 0 || numWarnings > 0 ? 1 : 0)
