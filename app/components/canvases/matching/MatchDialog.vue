<script setup lang="ts">
import type { PairProposal, Proposal } from '@green-mantle/core/matching'
import { canvasNames, type CanvasName, type Layer, otherCanvas } from '@green-mantle/core/show'
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

/** Proposes arrangements of one canvas from the other, or of both from the sources; picking one is one step of undo. */
const props = defineProps<{ canvas: CanvasName | 'both' }>()
const emit = defineEmits<{ close: [] }>()

const store = useShowStore()
const selection = useSelectionStore()
const placing = usePlacing()

interface Offer extends Pick<Proposal, 'name' | 'score' | 'costs'> {
  /** Of the canvases that it arranges. */
  placements: Partial<Record<CanvasName, Proposal['placements']>>
}
const offers = shallowRef<Offer[]>()
const problem = ref('')
const list = useTemplateRef<HTMLElement>('list')
let isClosed = false
onBeforeUnmount(() => (isClosed = true))

const only = computed(() => (props.canvas === 'both' ? undefined : props.canvas))
const words = computed(() =>
  props.canvas === 'both'
    ? {
        title: 'Arrange both canvases',
        description: `Arrangements of ${selection.scene.name} from its sources alone, wherever they stand now.`,
        nothing: 'Nothing is shown on landscape in this scene yet, so there is nothing to arrange.',
      }
    : {
        title: `Match ${props.canvas} to ${otherCanvas[props.canvas]}`,
        description: `Arrangements of ${selection.scene.name} on the ${props.canvas} canvas that show all that ${otherCanvas[props.canvas]} shows.`,
        nothing: `Nothing is shown on ${otherCanvas[props.canvas]} in this scene yet, so there is nothing to match.`,
      },
)

const ofPair = ({ placements, ...rest }: PairProposal): Offer => {
  const on = (canvas: CanvasName): Proposal['placements'] =>
    Object.fromEntries(Object.entries(placements).map(([id, both]) => [id, both[canvas]]))
  return { ...rest, placements: { landscape: on('landscape'), vertical: on('vertical') } }
}

async function askWorker(canvas: CanvasName | 'both'): Promise<Offer[]> {
  const { canvasPair, sources, destinations } = toRaw(store.show)
  const show = { canvasPair, sources, destinations }
  const scene = toRaw(selection.scene)
  if (canvas === 'both') return (await matchingWorker().pairProposals(show, scene)).map(ofPair)
  const found = await matchingWorker().matchProposals(show, scene, canvas)
  return found.map(({ placements, ...rest }) => ({ ...rest, placements: { [canvas]: placements } }))
}

async function propose(): Promise<void> {
  try {
    const found = await askWorker(props.canvas)
    if (isClosed) return
    offers.value = found
    await nextTick()
    // What was waited for gets the focus.
    list.value?.querySelector<HTMLElement>('button')?.focus()
  } catch (error) {
    problem.value = wordsFor(error)
  }
}
watch(() => props.canvas, propose, { immediate: true })

function layersWith({ placements }: Offer): Record<CanvasName, Layer[]> {
  const layers = selection.scene.layers.map((layer) => ({
    ...layer,
    landscape: placements.landscape?.[layer.id] ?? layer.landscape,
    vertical: placements.vertical?.[layer.id] ?? layer.vertical,
  }))
  return { landscape: layers, vertical: layers }
}

function pick({ placements, name }: Offer): void {
  const canvases = canvasNames.filter((canvas) => placements[canvas])
  placing.placeOn(
    new Map(canvases.map((canvas) => [canvas, new Map(Object.entries(placements[canvas] ?? {}))])),
    `${props.canvas === 'both' ? 'Arrange both' : 'Match'} (${name})`,
  )
  emit('close')
}
</script>

<template>
  <ModalDialog
    :title="words.title"
    :description="words.description"
    width="wide"
    @close="emit('close')"
  >
    <p v-if="problem" role="alert" class="text-madder">
      No arrangement could be worked out: {{ problem }}. Nothing was changed.
    </p>
    <p v-else-if="!offers" role="status">Working out arrangements …</p>
    <p v-else-if="offers.length === 0">
      {{ words.nothing }}
    </p>
    <ol
      v-else
      ref="list"
      class="grid gap-4"
      :class="{ vertical: 'grid-cols-5', landscape: 'grid-cols-3', both: 'grid-cols-2' }[canvas]"
    >
      <li v-for="(proposal, index) in offers" :key="index" class="flex flex-col gap-1.5">
        <button
          type="button"
          class="hover:border-moss rounded-lg border border-transparent p-1 text-left"
          :aria-label="`Use arrangement ${index + 1}: ${proposal.name}, score ${Math.round(proposal.score)}`"
          @click="pick(proposal)"
        >
          <PairPicture
            :class="canvas === 'vertical' ? 'h-52' : 'h-32'"
            v-bind="only ? { only } : {}"
            :layers="layersWith(proposal)"
            :sources="selection.sourcesById"
            :canvas-pair="store.show.canvasPair"
            :dressing="store.show.dressing"
          />
        </button>
        <p>
          <span class="number font-bold">{{ Math.round(proposal.score) }}</span>
          <span class="text-ink-2 text-xs">
            of 100{{ canvas === 'both' ? ', vertical as a match of landscape' : '' }}</span
          >
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
