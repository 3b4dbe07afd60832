<script setup lang="ts">
import type { Proposal } from '@green-mantle/core/matching'
import type { CanvasName } from '@green-mantle/core/show'
import {
  computed,
  nextTick,
  onBeforeUnmount,
  ref,
  shallowRef,
  toRaw,
  useTemplateRef,
  watch,
} from 'vue'
import { wordsFor } from '~/api/problem'
import ModalDialog from '~/components/frame/ModalDialog.vue'
import { useSelectionStore } from '~/stores/selection'
import { useShowStore } from '~/stores/show'
import { matchingWorker } from '~/workers/workers'
import { usePlacing } from '../editing/placing'
import PairPicture from '../scenes/PairPicture.vue'

/** Proposes arrangements of one canvas from the other; picking one is one step of undo. */
const props = defineProps<{ canvas: CanvasName }>()
const emit = defineEmits<{ close: [] }>()

const store = useShowStore()
const selection = useSelectionStore()
const placing = usePlacing()

const proposals = shallowRef<Proposal[]>()
const problem = ref('')
const list = useTemplateRef<HTMLElement>('list')
let isClosed = false
onBeforeUnmount(() => (isClosed = true))

const other = computed<CanvasName>(() => (props.canvas === 'vertical' ? 'landscape' : 'vertical'))

async function propose(): Promise<void> {
  const { canvasPair, sources, destinations } = toRaw(store.show)
  try {
    const found = await matchingWorker().matchProposals(
      { canvasPair, sources, destinations },
      toRaw(selection.scene),
      props.canvas,
    )
    if (isClosed) return
    proposals.value = found
    await nextTick()
    // What was waited for gets the focus.
    list.value?.querySelector<HTMLElement>('button')?.focus()
  } catch (error) {
    problem.value = wordsFor(error)
  }
}
watch(() => props.canvas, propose, { immediate: true })

const layersWith = ({ placements }: Proposal) => {
  const layers = selection.scene.layers.map((layer) => ({
    ...layer,
    [props.canvas]: placements[layer.id] ?? layer[props.canvas],
  }))
  return { landscape: layers, vertical: layers }
}

function pick({ placements, name }: Proposal): void {
  placing.place(props.canvas, new Map(Object.entries(placements)), `Match (${name})`)
  emit('close')
}
</script>

<template>
  <ModalDialog
    :title="`Match ${canvas} to ${other}`"
    :description="`Arrangements of ${selection.scene.name} on the ${canvas} canvas that show all that ${other} shows.`"
    width="wide"
    @close="emit('close')"
  >
    <p v-if="problem" role="alert" class="text-madder">
      No arrangement could be worked out: {{ problem }}. Nothing was changed.
    </p>
    <p v-else-if="!proposals" role="status">Working out arrangements …</p>
    <p v-else-if="proposals.length === 0">
      Nothing is shown on {{ other }} in this scene yet, so there is nothing to match.
    </p>
    <ol
      v-else
      ref="list"
      class="grid gap-4"
      :class="canvas === 'vertical' ? 'grid-cols-5' : 'grid-cols-3'"
    >
      <li v-for="(proposal, index) in proposals" :key="index" class="flex flex-col gap-1.5">
        <button
          type="button"
          class="hover:border-moss rounded-lg border border-transparent p-1 text-left"
          :aria-label="`Use arrangement ${index + 1}: ${proposal.name}, score ${Math.round(proposal.score)}`"
          @click="pick(proposal)"
        >
          <PairPicture
            :class="canvas === 'vertical' ? 'h-52' : 'h-32'"
            :only="canvas"
            :layers="layersWith(proposal)"
            :sources="selection.sourcesById"
            :canvas-pair="store.show.canvasPair"
            :dressing="store.show.dressing"
          />
        </button>
        <p>
          <span class="number font-bold">{{ Math.round(proposal.score) }}</span>
          <span class="text-ink-2 text-xs"> of 100</span>
        </p>
        <p class="text-xs font-semibold">{{ proposal.name }}</p>
        <ul v-if="proposal.costs.length > 0" class="text-ink-2 list-disc pl-3.5 text-xs">
          <li v-for="cost in proposal.costs" :key="cost">{{ cost }}</li>
        </ul>
        <p v-else class="text-ink-2 text-xs">Costs nothing.</p>
      </li>
    </ol>
  </ModalDialog>
</template>
