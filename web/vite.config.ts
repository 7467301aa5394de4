import tailwindcss from '@tailwindcss/vite'
import react from '@vitejs/plugin-react'
import { defineConfig } from 'vite'

export default defineConfig({
  plugins: [react(), tailwindcss()],
  build: {
    outDir: '../internal/api/ui/dist',
    emptyOutDir: true,
    // The budget of a first load is read off it.
    manifest: true,
    // Only the 3D view is larger, and it is loaded when a piece is turned.
    chunkSizeWarningLimit: 1100,
    // An inlined asset would need a looser content policy.
    assetsInlineLimit: 0,
  },
  server: { proxy: { '/api': 'http://127.0.0.1:8420' } },
})
