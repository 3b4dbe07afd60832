<script setup lang="ts">
import { type Covering, coveringsOf } from '@green-mantle/core/canvas'
import { type CanvasName, canvasNames, type Layer, type Source } from '@green-mantle/core/show'
import { computed, shallowRef, watch } from 'vue'
import { VueDraggable } from 'vue-draggable-plus'
import ScrollBox from '~/components/frame/ScrollBox.vue'
import { useSelectionStore } from '~/stores/selection'
import { useShowStore } from '~/stores/show'
import { useLayers } from './editing/layers'
import { useLookedAt } from './lookedAt'
import SourceRow from './SourceRow.vue'

const store = useShowStore()
const selection = useSelectionStore()
const layers = useLayers()

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
const dragged = shallowRef<Row[]>([])
watch(rows, (value) => (dragged.value = [...value]), { immediate: true })

function drop(event: { oldIndex?: number; newIndex?: number }): void {
  layers.reorder(event.oldIndex ?? 0, event.newIndex ?? 0)
  dragged.value = [...rows.value]
}

const looked = useLookedAt(150)
type Coverings = Record<CanvasName, Covering | undefined>
const coverings = computed(() => {
  const { show, scene } = looked.value
  const worst = (layerId: string, canvas: CanvasName): Covering | undefined =>
    canvas === 'vertical' && scene.verticalOf !== null
      ? undefined
      : coveringsOf(show, scene, layerId, canvas)[0]
  return new Map<string, Coverings>(
    scene.layers.map(({ id }) => [
      id,
      { landscape: worst(id, 'landscape'), vertical: worst(id, 'vertical') },
    ]),
  )
})
const uncovered: Coverings = { landscape: undefined, vertical: undefined }

function choose(id: string, event: MouseEvent): void {
  if (event.shiftKey || event.ctrlKey || event.metaKey) selection.toggleChosen(id)
  else selection.layerId = id
}

const titles: Record<CanvasName, string> = { landscape: 'On landscape', vertical: 'On vertical' }
const colours: Record<CanvasName, string> = { landscape: 'text-river', vertical: 'text-foxglove' }
</script>

<template>
  <ScrollBox label="Sources" on="paper">
    <table class="w-full" aria-label="Sources of this scene, front to back">
      <thead class="bg-paper sticky top-0 z-10">
        <tr class="border-rule text-ink-2 border-b text-xs">
          <th class="w-7"><span class="sr-only">Order</span></th>
          <th class="py-1.5">Sources, front to back</th>
          <template v-for="canvas in canvasNames" :key="canvas">
            <th :class="colours[canvas]" class="pr-2 font-semibold whitespace-nowrap">
              {{ titles[canvas] }}
            </th>
            <th class="pr-2">Sharpness</th>
          </template>
          <th>Covered</th>
          <th class="w-9"><span class="sr-only">Lock</span></th>
        </tr>
      </thead>
      <VueDraggable v-model="dragged" tag="tbody" handle=".grip" :animation="120" @end="drop">
        <SourceRow
          v-for="row in dragged"
          :key="row.id"
          :layer="row.layer"
          :source="row.source"
          :canvas-pair="store.show.canvasPair"
          :is-chosen="selection.isChosen(row.id)"
          :shares-vertical="selection.sharesVertical"
          :covering="coverings.get(row.id) ?? uncovered"
          @choose="choose(row.id, $event)"
        />
      </VueDraggable>
    </table>
    <p v-if="rows.length === 0" class="text-ink-2 py-4">
      No source in this scene yet. “Source” above adds one; it is placed on both canvases.
    </p>
  </ScrollBox>
</template>
