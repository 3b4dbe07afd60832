<script setup lang="ts">
import { type SceneCheck, sceneChecks } from '@green-mantle/core/canvas'
import { matchCheck } from '@green-mantle/core/matching'
import { TriangleAlert } from '@lucide/vue'
import { computed } from 'vue'
import ScrollBox from '~/components/frame/ScrollBox.vue'
import { useSelectionStore } from '~/stores/selection'
import { useLayers } from '../editing/layers'
import { usePlacing } from '../editing/placing'
import { useLookedAt } from '../lookedAt'

/** What viewers would notice in this scene, and how its two canvases differ. */
const selection = useSelectionStore()
const placing = usePlacing()
const layers = useLayers()

const looked = useLookedAt(200)
interface Note {
  key: string
  layerId: string | undefined
  words: string
  check?: SceneCheck
}

/** The same is said once: what the scene's check says already is no difference to be told. */
const notes = computed<Note[]>(() => {
  const { show, scene } = looked.value
  const checks = sceneChecks(show, scene)
  const told = new Set(checks.map(({ kind, layerId }) => `${layerId} ${kind}`))
  const differences = matchCheck(show, scene).filter(({ kind, layerIds }) => {
    if (kind === 'words unreadable on one') return !told.has(`${layerIds[0]} words too small`)
    if (kind === 'focus cut on one') return !told.has(`${layerIds[0]} focus cut`)
    return true
  })
  return [
    ...checks.map((check) => ({
      key: `${check.layerId} ${check.canvas} ${check.kind}`,
      layerId: check.layerId,
      words: `${check.sourceName} ${check.words}.`,
      check,
    })),
    ...differences.map(({ kind, layerIds, words }) => ({
      key: `${layerIds.join()} ${kind}`,
      layerId: layerIds[0],
      words: `${words}.`,
    })),
  ]
})

function remedy({ remedy: what, layerId, canvas }: SceneCheck): void {
  if (!canvas) return
  if (what === 'move it clear') placing.moveClear(layerId, canvas)
  else if (what === 'bring it back') placing.bringBack(layerId, canvas)
  else if (what === 'put it in front') layers.putInFrontOfHiders(layerId, canvas)
}
const remedyLabels = {
  'move it clear': 'Move it clear',
  'bring it back': 'Bring it back',
  'put it in front': 'Put it in front',
} as const
</script>

<template>
  <ScrollBox label="What viewers would notice" on="paper">
    <ul v-if="notes.length > 0" class="flex flex-col">
      <li v-for="note in notes" :key="note.key" class="flex items-baseline gap-2">
        <TriangleAlert class="text-ochre size-3.5 shrink-0 self-center" aria-label="Attention:" />
        <p class="flex min-w-0 items-baseline">
          <button
            type="button"
            class="min-h-6 min-w-0 truncate text-left hover:underline"
            :title="note.words"
            @click="selection.layerId = note.layerId"
          >
            {{ note.words }}
          </button>
          <button
            v-if="note.check?.remedy"
            type="button"
            class="link ml-2 min-h-6 shrink-0 whitespace-nowrap"
            :aria-label="`${note.check.sourceName} on ${note.check.canvas}: ${note.check.remedy}`"
            @click="remedy(note.check)"
          >
            {{ remedyLabels[note.check.remedy] }}
          </button>
        </p>
      </li>
    </ul>
    <p v-else-if="selection.scene.layers.length > 0" class="text-ink-2">
      Nothing in this scene would trouble its viewers, and the two canvases say the same.
    </p>
  </ScrollBox>
</template>
