<script setup lang="ts">
import { type Covering, isOffCanvas, sharpLimit, sharpness } from '@green-mantle/core/canvas'
import {
  type CanvasName,
  canvasNames,
  type CanvasPair,
  hasOwnPixels,
  type Layer,
  nativeSizeOf,
  type Source,
  onBoth,
} from '@green-mantle/core/show'
import { sizeInWords } from '@green-mantle/core/words'
import { Eye, EyeOff, GripVertical, Lock, LockOpen } from '@lucide/vue'
import { computed } from 'vue'
import { useLayers } from './editing/layers'
import { sourceIcons } from './sourceIcons'

/** A row of its own, so that dragging one source does not draw the rows of all others again. */
const props = defineProps<{
  layer: Layer
  source: Source
  canvasPair: CanvasPair
  isChosen: boolean
  /** The canvas whose vertical is another scene's has nothing of this row. */
  sharesVertical: boolean
  /** Who covers it most, by canvas. */
  covering: Readonly<Record<CanvasName, Covering | undefined>>
}>()
const emit = defineEmits<{ choose: [event: MouseEvent] }>()
const layers = useLayers()

const sharpnesses = computed(() =>
  onBoth((canvas) => {
    const isMeasured = props.layer[canvas].shown && hasOwnPixels(props.source)
    return isMeasured ? sharpness(props.layer[canvas], nativeSizeOf(props.source)) : null
  }),
)

const standings = computed(() =>
  onBoth((canvas) => {
    const placement = props.layer[canvas]
    if (!placement.shown) return 'not here'
    if (isOffCanvas(placement, props.canvasPair[canvas])) return 'off the edge'
    return sizeInWords({ width: Math.round(placement.width), height: Math.round(placement.height) })
  }),
)
const isLocked = computed(() => layers.isLocked(props.layer))
const isBlownUp = (canvas: CanvasName): boolean => (sharpnesses.value[canvas] ?? 1) < sharpLimit
const isAway = (canvas: CanvasName): boolean => canvas === 'vertical' && props.sharesVertical
const coverings = computed(() =>
  canvasNames.flatMap((canvas) => {
    const covering = props.covering[canvas]
    if (!covering || covering.share < 0.005) return []
    const zones = [...new Set(covering.zones)].join(', ')
    return [
      {
        canvas,
        percent: Math.round(covering.share * 100),
        title: `${covering.destination.name}, ${covering.mode}: ${zones}`,
      },
    ]
  }),
)
const colours: Record<CanvasName, string> = { landscape: 'text-river', vertical: 'text-foxglove' }
</script>

<template>
  <tr
    class="border-rule border-b"
    :class="isChosen ? 'bg-leaf' : ''"
    @click="emit('choose', $event)"
  >
    <td class="grip cursor-grab px-1.5" title="Drag to change the order">
      <GripVertical class="text-ink-2 size-4" aria-hidden="true" />
    </td>
    <td>
      <button
        type="button"
        class="flex min-h-7 w-full items-center gap-2 text-left"
        :aria-pressed="isChosen"
      >
        <component :is="sourceIcons[source.kind]" class="size-4 shrink-0" />
        <span class="max-w-36 truncate" :title="source.name">{{ source.name }}</span>
        <span class="text-ink-2 hidden text-xs whitespace-nowrap xl:inline">{{ source.kind }}</span>
      </button>
    </td>
    <template v-for="canvas in canvasNames" :key="canvas">
      <td v-if="isAway(canvas)" colspan="2" class="text-ink-2">of another scene</td>
      <template v-else>
        <td class="pr-2 whitespace-nowrap">
          <button
            type="button"
            class="button button-quiet min-h-6! px-1! py-0! align-middle"
            :class="layer[canvas].shown ? colours[canvas] : 'text-ink-2'"
            :aria-label="`${source.name} on ${canvas}: ${layer[canvas].shown ? 'shown, hide it' : 'hidden, show it'}`"
            @click.stop="layers.toggleShown(layer.id, canvas)"
          >
            <Eye v-if="layer[canvas].shown" class="size-4" />
            <EyeOff v-else class="size-4" />
          </button>
          <span
            class="ml-1.5 align-middle"
            :class="layer[canvas].shown ? 'number' : 'text-ink-2 text-xs'"
            >{{ standings[canvas] }}</span
          >
        </td>
        <td class="number pr-2 whitespace-nowrap">
          <template v-if="sharpnesses[canvas] === null">–</template>
          <span
            v-else
            :class="isBlownUp(canvas) ? 'text-ochre font-bold' : ''"
            :title="isBlownUp(canvas) ? 'blown up past its own pixels' : undefined"
            >{{ (sharpnesses[canvas] ?? 0).toFixed(2) }}×<span
              v-if="isBlownUp(canvas)"
              class="font-text ml-1 text-xs font-normal max-xl:sr-only"
              >blown up</span
            ></span
          >
        </td>
      </template>
    </template>
    <td class="number whitespace-nowrap">
      <template v-if="coverings.length === 0">–</template>
      <span
        v-for="item in coverings"
        :key="item.canvas"
        class="mr-1.5 font-bold"
        :class="item.percent > 5 ? 'text-madder' : 'text-ink-2'"
        :title="item.title"
        >{{ item.percent }} %<span class="sr-only">
          of {{ item.canvas }}, {{ item.title }}</span
        ></span
      >
    </td>
    <td class="text-right">
      <button
        type="button"
        class="button button-quiet min-h-6! px-1! py-0!"
        :aria-label="`${source.name}: ${isLocked ? 'locked, unlock it' : 'unlocked, lock it'}`"
        @click.stop="layers.toggleLocked(layer.id)"
      >
        <Lock v-if="isLocked" class="size-4" />
        <LockOpen v-else class="text-ink-2 size-4" />
      </button>
    </td>
  </tr>
</template>
