<script setup lang="ts">
import { zonesInUse } from '@green-mantle/core/canvas'
import { type CanvasName, canvasNames, standbySceneOf } from '@green-mantle/core/show'
import { countInWords } from '@green-mantle/core/words'
import { MonitorPlay, MoonStar, Pencil } from '@lucide/vue'
import { useNow, useResizeObserver } from '@vueuse/core'
import { computed, onBeforeUnmount, onMounted, ref, useTemplateRef, watch } from 'vue'
import { offerCommands } from '~/commands/commands'
import OnSwitch from '~/components/fields/OnSwitch.vue'
import GoOn from '~/components/night/GoOn.vue'
import { useNightLogStore } from '~/stores/nightLog'
import { useOnAirStore } from '~/stores/onAir'
import { useSenderStore } from '~/stores/sender'
import { useShowStore } from '~/stores/show'
import type { LateReason } from '~/onAir/wireTypes'
import OnAirDevices from './OnAirDevices.vue'
import OnAirNight from './OnAirNight.vue'
import OnAirScenes from './OnAirScenes.vue'
import OnAirSends from './OnAirSends.vue'
import OnAirSound from './OnAirSound.vue'
import OnAirTry from './OnAirTry.vue'
import OnAirZones from './OnAirZones.vue'

const store = useShowStore()
const log = useNightLogStore()
const sender = useSenderStore()
const onAir = useOnAirStore()
/** In the order of the canvases. */
const surfaces = useTemplateRef<HTMLCanvasElement[]>('surfaces')
const letsThrough = ref(false)
/** Seen here alone, and never sent. */
const showsZones = ref(false)
const hasZones = computed(() =>
  canvasNames.some((canvas) => zonesInUse(store.show.destinations, canvas).length > 0),
)
const standby = computed(() => standbySceneOf(store.show))

useResizeObserver(surfaces, (entries) => {
  for (const { target, contentRect } of entries) {
    const canvas = canvasNames[surfaces.value?.indexOf(target as HTMLCanvasElement) ?? -1]
    const { width, height } = contentRect
    if (canvas && width > 0)
      onAir.setSeen(canvas, {
        width: Math.ceil(width * devicePixelRatio),
        height: Math.ceil(height * devicePixelRatio),
      })
  }
})
onMounted(() => {
  const [landscape, vertical] = surfaces.value ?? []
  if (landscape && vertical) void onAir.open({ landscape, vertical })
})
onBeforeUnmount(() => void onAir.close())

// Edits that are made in another window wait, so that nobody sees a drag.
watch(
  () => [store.isNewerElsewhere, letsThrough.value] as const,
  ([isNewer, through]) => {
    if (isNewer && through) store.takeNewer()
  },
)
watch(
  () => store.show,
  (show) => void onAir.draw(show),
)

const now = useNow({ interval: 1000 })
const onAirSince = computed(() => log.state.ticks.get('on-air')?.at)
const clock = computed(() => {
  if (!onAirSince.value) return null
  const seconds = Math.max(
    0,
    Math.floor((now.value.getTime() - Date.parse(onAirSince.value)) / 1000),
  )
  const two = (value: number): string => String(value).padStart(2, '0')
  return `${Math.floor(seconds / 3600)}:${two(Math.floor(seconds / 60) % 60)}:${two(seconds % 60)}`
})
const sending = computed(() =>
  (sender.state?.sends ?? []).filter(({ stage }) => stage === 'sending'),
)
const troubled = computed(() =>
  (sender.state?.sends ?? []).filter(({ stage }) => stage === 'away' || stage === 'given up'),
)
/** How it stands, once, in words. */
const verdict = computed(() => {
  if (onAir.isElsewhere) return { words: 'Another window draws this show', isBad: true }
  if (onAir.state.connection === 'lost')
    return { words: 'The server is not reached; it sends the standby scene', isBad: true }
  if (troubled.value.length > 0)
    return {
      words: `${troubled.value.map(({ name }) => name).join(', ')} not reached`,
      isBad: true,
    }
  if (sending.value.length > 0)
    return {
      words: `${countInWords(sending.value.length, 'send')} ${sending.value.length === 1 ? 'is' : 'are'} well`,
      isBad: false,
    }
  return {
    words: sender.isOn
      ? 'Encoded here; nothing is sent yet'
      : 'Everything runs, and nothing is sent',
    isBad: false,
  }
})
/** As wide as their shapes ask, so that both stand at one height. */
const gridTemplateColumns = computed(() =>
  canvasNames
    .map((canvas) => {
      const { width, height } = store.show.canvasPair[canvas]
      return `minmax(0, ${width / height}fr)`
    })
    .join(' '),
)
const framesOf = (canvas: CanvasName) => onAir.state.frames[canvas]
const sizeOf = (canvas: CanvasName): string => {
  const { width, height } = store.show.canvasPair[canvas]
  return `${width}×${height}`
}
/** Said once it is more than what any machine loses now and then. */
const noticeableLateShare = 0.05
const tooMuchFor: Readonly<Record<LateReason, string>> = {
  drawing: 'this computer draws',
  encoder: 'this browser encodes',
  connection: 'the server takes from here',
}
const lateness = computed(() => {
  const all = canvasNames.map((canvas) => onAir.state.frames[canvas])
  const due = all.reduce((sum, each) => sum + each.due, 0)
  const late = all.reduce((sum, each) => sum + each.late, 0)
  if (due === 0 || late / due <= noticeableLateShare) return ''
  const [[reason]] = Object.entries(onAir.state.lateInAll).toSorted(([, a], [, b]) => b - a) as [
    [LateReason, number],
  ]
  return `${Math.round((100 * late) / due)} of 100 frames are late: more than ${tooMuchFor[reason]} in time. Smaller canvases, or fewer frames a second, help.`
})

offerCommands(
  Array.from({ length: 9 }, (_, index) => ({
    id: `on-air.scene-${index + 1}`,
    label: `Cut to scene ${index + 1}`,
    group: 'On air',
    keys: String(index + 1),
    isPossible: () => store.show.scenes[index] !== undefined,
    run: () => {
      const scene = store.show.scenes[index]
      if (scene) onAir.take(scene.id, { cuts: true })
    },
  })),
)
offerCommands([
  {
    id: 'on-air.take',
    label: 'Take the prepared scene',
    group: 'On air',
    keys: 'Space',
    isPossible: () => onAir.preparedId !== undefined,
    run: () => onAir.preparedId && onAir.take(onAir.preparedId),
  },
])
</script>

<template>
  <div class="flex min-h-dvh flex-col lg:h-dvh lg:overflow-hidden">
    <header class="border-rule flex flex-wrap items-center gap-x-6 gap-y-2 border-b px-4 py-2">
      <div>
        <h1 class="text-lg">{{ store.show.title }}</h1>
        <p class="text-ink-2 text-xs">this window draws what goes out; leave it open</p>
      </div>
      <p v-if="clock" class="number text-3xl">
        {{ clock }} <span class="text-ink-2 font-text text-xs">on air</span>
      </p>
      <p
        role="status"
        class="font-title grow"
        :class="verdict.isBad ? 'text-madder text-2xl' : 'text-base'"
      >
        {{ verdict.words }}
      </p>
      <button
        v-if="onAir.isElsewhere"
        type="button"
        class="button button-primary"
        @click="onAir.takeOver()"
      >
        <MonitorPlay class="size-4" /> Take over here
      </button>
      <button v-if="store.isNewerElsewhere" type="button" class="button" @click="store.takeNewer()">
        <Pencil class="size-4" />
        {{ countInWords(store.changesElsewhere, 'change') }}
        {{ store.changesElsewhere === 1 ? 'waits' : 'wait' }}:
        <b class="text-moss">take {{ store.changesElsewhere === 1 ? 'it' : 'them' }}</b>
      </button>
      <button
        v-if="standby"
        type="button"
        class="button"
        :disabled="standby.id === onAir.sceneId"
        :title="`${standby.name}, at once and on both canvases`"
        @click="onAir.take(standby.id, { cuts: true })"
      >
        <MoonStar class="size-4" /> Standby
      </button>
      <span v-if="hasZones" class="flex items-center gap-2 text-xs">
        <OnSwitch v-model="showsZones" label="Show cover zones" />
        cover zones
      </span>
      <span class="flex items-center gap-2 text-xs">
        <OnSwitch v-model="letsThrough" label="Let edits through" />
        let edits through
      </span>
    </header>
    <p
      v-if="onAir.problem || onAir.state.problem"
      role="alert"
      class="text-madder px-4 py-2 text-xl"
    >
      {{ onAir.problem || onAir.state.problem }}
    </p>
    <GoOn class="mx-4" />
    <div class="grid min-h-0 grow gap-3 p-3 lg:grid-cols-[minmax(0,1fr)_19rem]">
      <div class="flex min-h-0 flex-col gap-3">
        <div
          class="grid min-h-40 grow grid-rows-[minmax(0,1fr)] gap-3 overflow-hidden"
          :style="{ gridTemplateColumns }"
        >
          <figure
            v-for="canvas in canvasNames"
            :key="canvas"
            class="flex h-full min-h-0 min-w-0 flex-col"
          >
            <figcaption class="flex items-baseline justify-between gap-x-2 whitespace-nowrap">
              <span
                class="font-title"
                :class="canvas === 'landscape' ? 'text-river' : 'text-foxglove'"
                >{{ canvas === 'landscape' ? 'Landscape' : 'Vertical' }}</span
              >
              <span class="number text-ink-2 truncate text-xs" :title="sizeOf(canvas)"
                ><span class="max-xl:hidden"
                  >{{ framesOf(canvas).drawn }} of {{ framesOf(canvas).due }} · </span
                >{{ framesOf(canvas).late }} late</span
              >
            </figcaption>
            <div class="relative min-h-0 grow">
              <canvas
                ref="surfaces"
                role="img"
                :aria-label="`The ${canvas} canvas as it goes out`"
                class="absolute inset-0 size-full object-contain object-left-top"
              ></canvas>
              <OnAirZones v-if="showsZones" :canvas="canvas" />
            </div>
          </figure>
        </div>
        <p v-if="lateness" role="status" class="text-ochre">{{ lateness }}</p>
        <OnAirScenes />
        <OnAirNight />
      </div>
      <div class="flex min-h-0 flex-col gap-3 overflow-y-auto">
        <OnAirTry v-if="onAir.state.wanted.length === 0" />
        <OnAirSound />
        <OnAirDevices />
      </div>
    </div>
    <OnAirSends />
  </div>
</template>
