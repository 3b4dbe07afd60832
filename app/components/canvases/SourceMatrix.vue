<script setup lang="ts">
import { isOffCanvas, sharpness } from '@green-mantle/core/canvas'
import {
  type CanvasName,
  canvasNames,
  hasOwnPixels,
  type Layer,
  type Source,
} from '@green-mantle/core/show'
import { sizeInWords } from '@green-mantle/core/words'
import { Eye, EyeOff, GripVertical, Lock, LockOpen } from '@lucide/vue'
import { computed, ref, watch } from 'vue'
import { VueDraggable } from 'vue-draggable-plus'
import { useSelectionStore } from '~/stores/selection'
import { useShowStore } from '~/stores/show'
import { usePlacing } from './placing'
import { sourceIcons } from './sourceIcons'

const store = useShowStore()
const selection = useSelectionStore()
const placing = usePlacing()

interface Row {
  id: string
  layer: Layer
  source: Source
}
const rows = computed<Row[]>(() =>
  selection.scene.layers.flatMap((layer) => {
    const source = selection.sourcesById.get(layer.sourceId)
    return source ? [{ id: layer.id, layer, source }] : []
  }),
)
/** The list that dragging rearranges; the show follows when the row is let go. */
const dragged = ref<Row[]>([])
watch(rows, (value) => (dragged.value = [...value]), { immediate: true })

function sharpnessOf({ layer, source }: Row, canvas: CanvasName): number | null {
  const native = { width: source.nativeWidth, height: source.nativeHeight }
  return layer[canvas].shown && hasOwnPixels(source) ? sharpness(layer[canvas], native) : null
}

function standingOf({ layer }: Row, canvas: CanvasName): string {
  const placement = layer[canvas]
  if (!placement.shown) return 'not on this canvas'
  if (isOffCanvas(placement, store.show.canvasPair[canvas])) return 'off the edge'
  return sizeInWords({ width: Math.round(placement.width), height: Math.round(placement.height) })
}

const isLocked = ({ layer }: Row): boolean => layer.landscape.locked && layer.vertical.locked

function drop(event: { oldIndex?: number; newIndex?: number }): void {
  placing.reorder(event.oldIndex ?? 0, event.newIndex ?? 0)
  dragged.value = [...rows.value]
}

const titles: Record<CanvasName, string> = { landscape: 'On landscape', vertical: 'On vertical' }
const colours: Record<CanvasName, string> = { landscape: 'text-river', vertical: 'text-foxglove' }
</script>

<template>
  <div class="h-full overflow-y-auto">
    <table class="w-full" aria-label="Sources of this scene, front to back">
      <thead class="bg-paper sticky top-0 z-10">
        <tr class="border-rule text-ink-2 border-b text-xs">
          <th class="w-7"><span class="sr-only">Order</span></th>
          <th class="py-1.5">Sources, front to back</th>
          <template v-for="canvas in canvasNames" :key="canvas">
            <th :class="colours[canvas]" class="font-semibold">{{ titles[canvas] }}</th>
            <th>Sharpness</th>
          </template>
          <th class="w-9"><span class="sr-only">Lock</span></th>
        </tr>
      </thead>
      <VueDraggable v-model="dragged" tag="tbody" handle=".grip" :animation="120" @end="drop">
        <tr
          v-for="row in dragged"
          :key="row.id"
          class="border-rule border-b"
          :class="row.id === selection.layerId ? 'bg-leaf' : ''"
          :aria-selected="row.id === selection.layerId"
          @click="selection.layerId = row.id"
        >
          <td class="grip cursor-grab px-1.5" title="Drag to change the order">
            <GripVertical class="text-ink-2 size-4" aria-hidden="true" />
          </td>
          <td>
            <button
              type="button"
              class="flex min-h-7 w-full items-center gap-2 text-left"
              :aria-pressed="row.id === selection.layerId"
            >
              <component :is="sourceIcons[row.source.kind]" class="size-4 shrink-0" />
              <span class="max-w-44 truncate" :title="row.source.name">{{ row.source.name }}</span>
              <span class="text-ink-2 text-xs">{{ row.source.kind }}</span>
            </button>
          </td>
          <template v-for="canvas in canvasNames" :key="canvas">
            <td>
              <button
                type="button"
                class="button button-quiet min-h-6! px-1! py-0!"
                :class="row.layer[canvas].shown ? colours[canvas] : 'text-ink-2'"
                :aria-label="`${row.source.name} on ${canvas}: ${row.layer[canvas].shown ? 'shown, hide it' : 'hidden, show it'}`"
                :aria-pressed="row.layer[canvas].shown ? 'true' : 'false'"
                style="background: none; border-color: transparent"
                @click.stop="placing.toggleShown(row.id, canvas)"
              >
                <Eye v-if="row.layer[canvas].shown" class="size-4" />
                <EyeOff v-else class="size-4" />
              </button>
              <span class="number ml-1.5">{{ standingOf(row, canvas) }}</span>
            </td>
            <td class="number">
              <template v-if="sharpnessOf(row, canvas) === null">–</template>
              <span
                v-else
                :class="(sharpnessOf(row, canvas) ?? 1) < 0.995 ? 'text-ochre font-bold' : ''"
                :title="
                  (sharpnessOf(row, canvas) ?? 1) < 0.995
                    ? 'blown up past its own pixels'
                    : undefined
                "
                >{{ (sharpnessOf(row, canvas) ?? 0).toFixed(2) }}×<span
                  v-if="(sharpnessOf(row, canvas) ?? 1) < 0.995"
                  class="font-text ml-1 text-xs font-normal"
                  >blown up</span
                ></span
              >
            </td>
          </template>
          <td class="text-right">
            <button
              type="button"
              class="button button-quiet min-h-6! px-1! py-0!"
              :aria-label="`${row.source.name}: ${isLocked(row) ? 'locked, unlock it' : 'unlocked, lock it'}`"
              @click.stop="placing.toggleLocked(row.id)"
            >
              <Lock v-if="isLocked(row)" class="size-4" />
              <LockOpen v-else class="text-ink-2 size-4" />
            </button>
          </td>
        </tr>
      </VueDraggable>
    </table>
    <p v-if="rows.length === 0" class="text-ink-2 py-4">
      No source in this scene yet. “Source” above adds one; it is placed on both canvases.
    </p>
  </div>
</template>
