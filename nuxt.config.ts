import tailwindcss from '@tailwindcss/vite'
import { bundledWorkers } from './scripts/bundledWorkers'
import { pureSchemas } from './scripts/pureSchemas'
import { directImports } from './scripts/directImports'

/** Only what ships with the application may load: no other machine is asked for anything. */
const contentSecurityPolicy = {
  'default-src': ["'self'"],
  'script-src': ["'self'", "'nonce-{{nonce}}'"],
  // Konva, ECharts and Vue set styles on elements.
  'style-src': ["'self'", "'unsafe-inline'"],
  'img-src': ["'self'", 'data:', 'blob:'],
  'font-src': ["'self'"],
  // A picture inside an SVG is read from a data: address.
  'connect-src': ["'self'", 'data:'],
  'media-src': ["'self'"],
  'worker-src': ["'self'"],
  'object-src': ["'none'"],
  'base-uri': ["'none'"],
  'form-action': ["'self'"],
  'frame-ancestors': ["'none'"],
  'script-src-attr': ["'none'"],
  'upgrade-insecure-requests': false,
} as const

export default defineNuxtConfig({
  compatibilityDate: '2026-11-01',
  telemetry: false,
  devtools: { enabled: false },
  // The workbench lives in the browser: it holds the edited show, which no server render could know.
  ssr: false,
  // The development server of this Nuxt does not start without a server entry, so there every page is
  // sent to the browser unrendered by rule instead.
  $development: { ssr: true, routeRules: { '/**': { ssr: false } } },
  imports: { autoImport: false },
  components: false,
  modules: ['@pinia/nuxt', 'nuxt-security'],
  css: ['~/styles/main.css'],
  app: {
    head: {
      title: 'Green Mantle',
      htmlAttrs: { lang: 'en' },
      meta: [{ name: 'viewport', content: 'width=device-width, initial-scale=1' }],
      link: [{ rel: 'icon', type: 'image/svg+xml', href: '/mark.svg' }],
    },
  },
  spaLoadingTemplate: false,
  hooks: {
    // Everything lies on this computer or near it: fetched when it is first needed it is there at once,
    // and a hundred requests ahead of need are what opening a page then waits for.
    'build:manifest': (manifest) => {
      for (const item of Object.values(manifest)) item.prefetch = false
    },
  },
  typescript: {
    strict: true,
    tsConfig: {
      include: ['../tests/app/**/*.ts'],
      // The types of the routes lead into the server, and so to what it declares of others.
      files: ['../server/listeners/nodeMediaServer.d.ts'],
    },
  },
  security: {
    headers: {
      contentSecurityPolicy,
      crossOriginEmbedderPolicy: 'require-corp',
      strictTransportSecurity: false,
      // Only a person's own click shows a camera or screen or a level, and only to themselves.
      permissionsPolicy: {
        camera: ['self'],
        microphone: ['self'],
        'display-capture': ['self'],
        geolocation: [],
      },
    },
    corsHandler: false,
    // The API checks sizes and contents itself and answers in application/problem+json.
    requestSizeLimiter: false,
    xssValidator: false,
    rateLimiter: false,
    allowedMethodsRestricter: false,
  },
  routeRules: {
    // Its forms are answered, and a browser that tells no referrer tells no origin either.
    '/stand-ins/**': { security: { headers: { referrerPolicy: 'same-origin' } } },
    '/access': { security: { headers: { referrerPolicy: 'same-origin' } } },
    // A worker's own script needs the header that the page asks of all it loads.
    '/_nuxt/**': { headers: { 'cross-origin-embedder-policy': 'require-corp' } },
  },
  nitro: {
    // The on-air window hands its pictures over by one.
    experimental: { websocket: true },
    rollupConfig: { plugins: [bundledWorkers()] },
    publicAssets: [
      { dir: '../demo/pictures', baseURL: '/drawings', maxAge: 3600 },
      { dir: '../docs/screenshots', baseURL: '/guide-pictures', maxAge: 3600 },
    ],
  },
  vite: {
    plugins: [tailwindcss(), pureSchemas(), directImports()],
    // Inlined fonts would be data: addresses, which the policy refuses.
    build: {
      // Each file is asked for by itself, so that what is tiny, as an icon, joins another; what is larger
      // than so many bytes would be carried by pages that do not need it.
      rollupOptions: { output: { experimentalMinChunkSize: 1000 } },
      assetsInlineLimit: (file) => (file.endsWith('.woff2') ? false : undefined),
    },
    worker: { format: 'es', plugins: () => [pureSchemas()] },
    optimizeDeps: {
      include: [
        'konva',
        'vue-konva',
        'echarts/core',
        'echarts/charts',
        'echarts/components',
        'echarts/renderers',
        'vue-echarts',
        'immer',
        'comlink',
        'mediabunny',
        'luxon',
        'tinykeys',
        'vue-draggable-plus',
        '@headlessui/vue',
        '@lucide/vue',
      ],
    },
  },
})
