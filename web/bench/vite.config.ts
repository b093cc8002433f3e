import { defineConfig } from 'vite'

export default defineConfig({
  build: {
    lib: { entry: 'bench/pictures.ts', formats: ['es'], fileName: 'pictures' },
    outDir: 'node_modules/.bench',
    copyPublicDir: false,
  },
  logLevel: 'warn',
})
