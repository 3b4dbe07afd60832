<script setup lang="ts">
import { canvasNames, fedBy } from '@green-mantle/core/show'
import {
  audioCodecNames,
  codecNames,
  kbpsInWords,
  sampleRateInWords,
} from '@green-mantle/core/words'
import { computed } from 'vue'
import ModalDialog from '~/components/frame/ModalDialog.vue'
import { useKeysStore } from '~/stores/keys'
import { useShowStore } from '~/stores/show'
import { frameRatesInWords, sizesInWords } from './limitsInWords'

/** Every destination's limits side by side, grouped by canvas. */
defineEmits<{ close: [] }>()
const store = useShowStore()
const keys = useKeysStore()
const groups = computed(() =>
  canvasNames.map((canvas) => ({
    canvas,
    destinations: store.show.destinations.filter((item) => item.canvas === canvas),
  })),
)
const columns = [
  'Destination',
  'Sizes',
  'Frame rates',
  'Codecs',
  'Video',
  'Keyframe',
  'Audio',
  'Rates',
  'Takes',
  'Key',
  'Start',
  'End',
]
const nameOfRelay = (id: string | null): string =>
  store.show.destinations.find((destination) => destination.id === id)?.name ?? ''
</script>

<template>
  <ModalDialog title="All limits side by side" width="full" @close="$emit('close')">
    <div class="overflow-x-auto" tabindex="0" role="region" aria-label="Limits">
      <table class="w-full text-xs">
        <thead>
          <tr class="border-rule text-ink-2 border-b">
            <th v-for="column in columns" :key="column" class="py-1.5 pr-3">{{ column }}</th>
          </tr>
        </thead>
        <tbody v-for="group in groups" :key="group.canvas">
          <tr>
            <th
              :colspan="columns.length"
              scope="rowgroup"
              class="pt-3 pb-1 text-sm"
              :class="group.canvas === 'landscape' ? 'text-river' : 'text-foxglove'"
            >
              On {{ group.canvas }}
            </th>
          </tr>
          <tr
            v-for="destination in group.destinations"
            :key="destination.id"
            class="border-rule border-b align-top"
          >
            <th scope="row" class="py-1.5 pr-3 font-semibold">
              {{ destination.name
              }}<span v-if="!destination.on" class="text-ink-2 font-normal"> off</span>
              <span v-if="destination.relayId" class="text-ink-2 block font-normal"
                >through {{ nameOfRelay(destination.relayId) }}</span
              >
            </th>
            <td class="number py-1.5 pr-3">{{ sizesInWords(destination.rules) }}</td>
            <td class="number py-1.5 pr-3">{{ frameRatesInWords(destination.rules) }}</td>
            <td class="py-1.5 pr-3">
              {{ destination.rules.codecs.map((codec) => codecNames[codec]).join(', ') }}
            </td>
            <td class="number py-1.5 pr-3">
              ≤ {{ kbpsInWords(destination.rules.mostVideoBitrateKbps) }}
            </td>
            <td class="number py-1.5 pr-3">
              ≤ {{ destination.rules.longestKeyframeIntervalSeconds }} s
            </td>
            <td class="py-1.5 pr-3">
              {{ destination.rules.audioCodecs.map((codec) => audioCodecNames[codec]).join(', ') }}
              <span class="number"
                >≤ {{ kbpsInWords(destination.rules.mostAudioBitrateKbps) }}</span
              >
            </td>
            <td class="number py-1.5 pr-3">
              {{ destination.rules.audioSampleRatesHz.map(sampleRateInWords).join(', ') }}
            </td>
            <td class="py-1.5 pr-3">
              <template v-if="destination.connection === 'relay'"
                >feeds {{ fedBy(store.show.destinations, destination).length }} of
                {{ destination.rules.mostFed }}</template
              ><template v-else>{{
                destination.rules.mostRenditions === 1
                  ? 'one'
                  : `up to ${destination.rules.mostRenditions}`
              }}</template>
            </td>
            <td class="py-1.5 pr-3">
              {{ keys.stateOf(destination).words }}
            </td>
            <td class="py-1.5 pr-3">{{ destination.rules.start }}</td>
            <td class="py-1.5">{{ destination.rules.end }}</td>
          </tr>
        </tbody>
      </table>
    </div>
  </ModalDialog>
</template>
