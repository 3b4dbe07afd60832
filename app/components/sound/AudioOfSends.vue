<script setup lang="ts">
import { allBreaches, audioCodecsCarried, audioRuleNames } from '@green-mantle/core/fit'
import { type Destination, type Rendition } from '@green-mantle/core/show'
import { audioCodecNames } from '@green-mantle/core/words'
import { TriangleAlert } from '@lucide/vue'
import { computed } from 'vue'
import { useDestinationEditing } from '~/components/destinations/destinationEditing'
import QuantityField from '~/components/fields/QuantityField.vue'
import SelectField from '~/components/fields/SelectField.vue'
import { useShowStore } from '~/stores/show'
import { channelChoices, sampleRateChoices } from './choices'

/** The audio of each send, held to its destination's rules. */
const store = useShowStore()
const editing = useDestinationEditing()
const rows = computed(() =>
  store.show.destinations
    .filter(({ on, relayId }) => on && relayId === null)
    .flatMap((destination) =>
      destination.renditions.map((rendition, index) => ({
        destination,
        rendition,
        name: index === 0 ? destination.name : `${destination.name} ${index + 1}`,
      })),
    ),
)
const breaches = computed(() =>
  allBreaches(store.show).filter(({ rule }) => audioRuleNames.has(rule)),
)
const codecsOf = ({ protocol }: Destination) =>
  audioCodecsCarried[protocol].map((value) => ({ value, label: audioCodecNames[value] }))

function set(destination: Destination, rendition: Rendition, changes: Partial<Rendition>): void {
  editing.changeRendition(destination.id, rendition.id, 'Set the audio of', changes)
}
</script>

<template>
  <section class="card p-4" aria-labelledby="audio-title">
    <h3 id="audio-title" class="mb-1 text-lg">What each destination gets of the live mix</h3>
    <table v-if="rows.length > 0" class="w-full">
      <thead>
        <tr class="border-rule text-ink-2 border-b text-xs">
          <th class="py-1.5">Send</th>
          <th>Codec</th>
          <th class="w-28">Bitrate, kb/s</th>
          <th>Channels</th>
          <th>Sample rate</th>
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="{ destination, rendition, name } in rows"
          :key="rendition.id"
          class="border-rule border-b last:border-0"
        >
          <th scope="row" class="py-1 pr-2 font-normal">{{ name }}</th>
          <td class="py-1 pr-2">
            <SelectField
              hide-label
              :label="`Audio codec for ${name}`"
              :choices="codecsOf(destination)"
              :model-value="rendition.audioCodec"
              @update:model-value="set(destination, rendition, { audioCodec: $event })"
            />
          </td>
          <td class="pr-2">
            <QuantityField
              quantity="audio bitrate"
              cell
              :label="`Audio bitrate for ${name}`"
              :model-value="rendition.audioBitrateKbps"
              @update:model-value="
                set(destination, rendition, {
                  audioBitrateKbps: $event,
                })
              "
            />
          </td>
          <td class="pr-2">
            <SelectField
              hide-label
              :label="`Audio channels for ${name}`"
              :choices="channelChoices"
              :model-value="rendition.audioChannels"
              @update:model-value="set(destination, rendition, { audioChannels: $event })"
            />
          </td>
          <td>
            <SelectField
              hide-label
              :label="`Audio sample rate for ${name}`"
              :choices="sampleRateChoices"
              :model-value="rendition.audioSampleRateHz"
              @update:model-value="set(destination, rendition, { audioSampleRateHz: $event })"
            />
          </td>
        </tr>
      </tbody>
    </table>
    <p v-else class="text-ink-2">No destination is on.</p>
    <ul class="mt-1">
      <li
        v-for="breach in breaches"
        :key="`${breach.renditionId} ${breach.rule}`"
        class="flex items-center gap-2 py-1"
      >
        <TriangleAlert class="text-ochre size-4 shrink-0" />
        <span class="grow">{{ breach.words }}</span>
        <button
          v-if="breach.remedy"
          type="button"
          class="button"
          @click="
            editing.changeRendition(
              breach.destinationId,
              breach.renditionId,
              breach.remedy.words,
              breach.remedy.changes,
            )
          "
        >
          {{ breach.remedy.words }}
        </button>
      </li>
    </ul>
  </section>
</template>
