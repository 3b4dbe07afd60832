<script setup lang="ts">
import { newSourceStarts, type NewSourceKind } from '@green-mantle/core/show'
import { defineAsyncComponent, useTemplateRef } from 'vue'
import { offerCommands } from '~/commands/commands'
import AddSourceMenu from '~/components/canvases/AddSourceMenu.vue'
import CanvasCaption from '~/components/canvases/CanvasCaption.vue'
import SceneList from '~/components/canvases/SceneList.vue'
import SourceInspector from '~/components/canvases/SourceInspector.vue'
import SourceMatrix from '~/components/canvases/SourceMatrix.vue'
import { usePlacing } from '~/components/canvases/placing'
import { useSelectionStore } from '~/stores/selection'

// Konva is loaded where it is first needed.
const CanvasStage = defineAsyncComponent(() => import('~/components/canvases/CanvasStage.vue'))

const selection = useSelectionStore()
const placing = usePlacing()
const landscape = useTemplateRef<{ focus(): void }>('landscape')
const vertical = useTemplateRef<{ focus(): void }>('vertical')

/** What a canvas with the focus does by itself. */
const canvasKeys = [
  ['Move by 1 px', 'arrows'],
  ['Move by 10 px', 'Shift+arrows'],
  ['Next source', 'PageDown'],
  ['Previous source', 'PageUp'],
  ['Remove from this scene', 'Delete'],
  ['Choose nothing', 'Escape'],
] as const

const isChosen = (): boolean => selection.selected !== undefined
const group = 'Chosen source'
offerCommands([
  {
    id: 'canvases.landscape',
    label: 'To the landscape canvas',
    group: 'Canvases',
    keys: 'g l',
    run: () => landscape.value?.focus(),
  },
  {
    id: 'canvases.vertical',
    label: 'To the vertical canvas',
    group: 'Canvases',
    keys: 'g v',
    run: () => vertical.value?.focus(),
  },
  {
    id: 'canvases.add',
    label: 'Add a source',
    group: 'Canvases',
    keys: 'n',
    run: () => document.querySelector<HTMLElement>('#add-source')?.click(),
  },
  ...(Object.keys(newSourceStarts) as NewSourceKind[]).map((kind) => ({
    id: `canvases.add.${kind}`,
    label: `Add a source: ${kind}`,
    group: 'Canvases',
    run: () => placing.addSource(kind),
  })),
  ...(['across', 'down', 'both'] as const).map((axis) => ({
    id: `source.centre.${axis}`,
    label: `Centre ${axis}`,
    group,
    keys: { across: 'c a', down: 'c d', both: 'c b' }[axis],
    isPossible: isChosen,
    run: () => placing.centre(axis),
  })),
  {
    id: 'source.fit',
    label: 'Fit',
    group,
    keys: 'f',
    isPossible: isChosen,
    run: () => placing.scale('fit'),
  },
  {
    id: 'source.fill',
    label: 'Fill',
    group,
    keys: 'Shift+f',
    isPossible: isChosen,
    run: () => placing.scale('fill'),
  },
  {
    id: 'source.lock',
    label: 'Lock or unlock',
    group,
    keys: 'l',
    isPossible: isChosen,
    run: () => selection.layerId && placing.toggleLocked(selection.layerId),
  },
  ...(['landscape', 'vertical'] as const).map((canvas) => ({
    id: `source.hide.${canvas}`,
    label: `Show or hide on ${canvas}`,
    group,
    keys: canvas === 'landscape' ? 'h l' : 'h v',
    isPossible: isChosen,
    run: () => selection.layerId && placing.toggleShown(selection.layerId, canvas),
  })),
  {
    id: 'source.forward',
    label: 'Bring forward',
    group,
    keys: 'Alt+ArrowUp',
    isPossible: isChosen,
    run: () => placing.moveChosenInOrder(-1),
  },
  {
    id: 'source.backward',
    label: 'Send backward',
    group,
    keys: 'Alt+ArrowDown',
    isPossible: isChosen,
    run: () => placing.moveChosenInOrder(1),
  },
  ...canvasKeys.map(([label, keys]) => ({
    id: `canvas.${label}`,
    label,
    group: 'On a canvas',
    keys,
    isListedOnly: true as const,
    run: () => {},
  })),
])
</script>

<template>
  <div class="grid h-full grid-cols-[8.5rem_minmax(0,1fr)_16rem]">
    <h2 class="sr-only">Canvases</h2>
    <SceneList />
    <div class="grid min-h-0 grid-rows-[minmax(0,1fr)_minmax(8rem,15rem)] gap-2 px-4 pt-3">
      <div class="grid min-h-0 grid-cols-[minmax(0,2.2fr)_minmax(0,1fr)] gap-6">
        <div class="grid min-h-0 grid-rows-[2rem_minmax(0,1fr)] gap-2">
          <div class="flex items-center justify-between">
            <CanvasCaption canvas="landscape" />
            <AddSourceMenu />
          </div>
          <CanvasStage ref="landscape" canvas="landscape" />
        </div>
        <div class="grid min-h-0 grid-rows-[2rem_minmax(0,1fr)] gap-2">
          <CanvasCaption canvas="vertical" class="flex items-center" />
          <CanvasStage ref="vertical" canvas="vertical" />
        </div>
      </div>
      <SourceMatrix />
    </div>
    <SourceInspector />
  </div>
</template>
