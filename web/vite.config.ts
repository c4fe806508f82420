import tailwind from '@tailwindcss/vite'
import react from '@vitejs/plugin-react'
import { defineConfig } from 'vite'

const server = process.env.HOLD_COURT ?? 'http://localhost:5080'

export default defineConfig({
  plugins: [react(), tailwind()],
  worker: { format: 'es' },
  build: {
    outDir: '../src/HoldCourt.Server/wwwroot',
    emptyOutDir: true,
    assetsInlineLimit: 0,
    modulePreload: { polyfill: false },
  },
  server: { proxy: { '/api': server, '/live': { target: server, ws: true }, '/media': { target: server, ws: true } } },
})
