<script setup lang="ts">
import { type Codec, codecs, framesPerSecondChoices, type Rendition } from '@green-mantle/core/show'
import {
  codecNames,
  rateUnits,
  screenNames,
  sizeInWords,
  wholeNumber,
} from '@green-mantle/core/words'
import { TriangleAlert } from '@lucide/vue'
import NumberField from '~/components/fields/NumberField.vue'
import SelectField from '~/components/fields/SelectField.vue'
import { useDestinationEditing } from '~/components/destinations/editing'
import { useSelectionStore } from '~/stores/selection'
import { useShowStore } from '~/stores/show'
import type { FitRow } from './rows'

defineProps<{ rows: FitRow[] }>()
const store = useShowStore()
const selection = useSelectionStore()
const editing = useDestinationEditing()

function choose(row: FitRow): void {
  selection.destinationId = row.destination.id
  selection.renditionId = row.rendition.id
}

function set(row: FitRow, changes: Partial<Rendition>, mergeKey?: string): void {
  editing.changeRendition(row.destination.id, row.rendition.id, 'Set', changes, mergeKey)
}

function setSize(row: FitRow, size: string): void {
  const chosen = row.sizes.find((candidate) => sizeInWords(candidate) === size)
  if (chosen) set(row, { width: chosen.width, height: chosen.height })
}

const sizeChoices = (row: FitRow) =>
  row.sizes.map((size) => ({ value: sizeInWords(size), label: sizeInWords(size) }))
const rateChoices = framesPerSecondChoices.map((value) => ({ value, label: `${value}` }))
const codecChoices = codecs.map((value) => ({ value, label: codecNames[value] }))
const scoreTone: Record<string, string> = {
  clean: 'bg-leaf text-moss',
  good: 'bg-leaf text-moss',
  soft: 'bg-ochre-wash text-ochre',
  rough: 'bg-ochre-wash text-ochre',
  broken: 'bg-madder-wash text-madder',
}
const isChosen = (row: FitRow): boolean => row.rendition.id === selection.renditionId
</script>

<template>
  <div class="card overflow-auto" tabindex="0" role="region" aria-label="Sends">
    <table class="w-full">
      <thead class="bg-sheet sticky top-0 z-10">
        <tr class="border-rule text-ink-2 border-b text-xs">
          <th class="py-2 pl-3">Destination</th>
          <th>Canvas</th>
          <th>Size</th>
          <th>fps</th>
          <th>Codec</th>
          <th>Video, kb/s</th>
          <th>Audio, kb/s</th>
          <th class="pr-4 text-right">On the wire</th>
          <th>Level</th>
          <th title="Bits spent on each pixel of each frame">Bits / pixel</th>
          <th>Viewers see</th>
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="row in rows"
          :key="row.key"
          class="border-rule border-b last:border-0"
          :class="isChosen(row) ? 'bg-leaf' : ''"
          :data-send="row.send.name"
          @focusin="choose(row)"
          @click="choose(row)"
        >
          <th scope="row" class="max-w-40 min-w-28 py-1 pr-2 pl-3">
            <button
              type="button"
              class="flex min-h-6 w-full items-center gap-1.5 text-left"
              :aria-pressed="isChosen(row)"
            >
              <TriangleAlert
                v-if="row.breaches.length > 0"
                class="text-ochre size-4 shrink-0"
                aria-label="a rule is not kept"
              />
              <span class="min-w-0">
                <span class="block truncate font-semibold" :title="row.send.name">{{
                  row.send.name
                }}</span>
                <span
                  class="text-ink-2 block truncate text-xs leading-tight font-normal"
                  :title="row.destination.note"
                  >{{ row.destination.note }}</span
                >
              </span>
            </button>
          </th>
          <td class="pr-2">
            <span
              class="rounded-full px-2.5 py-0.5 text-xs font-semibold"
              :class="
                row.send.canvas === 'landscape'
                  ? 'bg-river-wash text-river'
                  : 'bg-foxglove-wash text-foxglove'
              "
              >{{ row.send.canvas }}</span
            >
          </td>
          <td class="pr-2">
            <SelectField
              hide-label
              class="number w-30"
              :label="`Size for ${row.send.name}`"
              :model-value="sizeInWords(row.rendition)"
              :choices="sizeChoices(row)"
              @update:model-value="setSize(row, $event as string)"
            />
          </td>
          <td class="pr-2">
            <SelectField
              hide-label
              class="number w-16"
              :label="`Frame rate for ${row.send.name}`"
              :model-value="row.rendition.framesPerSecond"
              :choices="rateChoices"
              @update:model-value="set(row, { framesPerSecond: $event })"
            />
          </td>
          <td class="pr-2">
            <SelectField
              hide-label
              class="w-22"
              :label="`Codec for ${row.send.name}`"
              :model-value="row.rendition.codec"
              :choices="codecChoices"
              @update:model-value="set(row, { codec: $event as Codec })"
            />
          </td>
          <td class="pr-2">
            <div class="grid grid-cols-[5.5rem_4.5rem] items-center gap-2">
              <input
                type="range"
                class="h-6 w-full"
                :style="{
                  accentColor: row.send.canvas === 'landscape' ? 'var(--river)' : 'var(--foxglove)',
                }"
                :aria-label="`Video bitrate for ${row.send.name}, up to its limit`"
                :min="row.destination.rules.leastVideoBitrateKbps ?? 250"
                :max="row.destination.rules.mostVideoBitrateKbps"
                step="50"
                :value="row.rendition.videoBitrateKbps"
                :aria-valuetext="`${row.rendition.videoBitrateKbps} kb/s`"
                @input="
                  set(
                    row,
                    { videoBitrateKbps: Number(($event.target as HTMLInputElement).value) },
                    `bitrate ${row.rendition.id}`,
                  )
                "
                @change="store.endMerge()"
              />
              <NumberField
                hide-label
                :label="`Video bitrate for ${row.send.name}, kb/s`"
                :model-value="row.rendition.videoBitrateKbps"
                :units="rateUnits"
                :step="50"
                :least="50"
                :most="200000"
                @update:model-value="set(row, { videoBitrateKbps: $event ?? 50 })"
              />
            </div>
          </td>
          <td class="w-17 pr-2">
            <NumberField
              hide-label
              :label="`Audio bitrate for ${row.send.name}, kb/s`"
              :model-value="row.rendition.audioBitrateKbps"
              :units="rateUnits"
              :step="16"
              :least="16"
              :most="1024"
              @update:model-value="set(row, { audioBitrateKbps: $event ?? 16 })"
            />
          </td>
          <td class="number pr-4 text-right" data-cell="wire">
            {{ wholeNumber(row.send.wireRateKbps) }}
          </td>
          <td class="number pr-2" data-cell="level">{{ row.level ?? 'none' }}</td>
          <td class="pr-2 whitespace-nowrap">
            <span class="number">{{ row.bitsPerPixel.toFixed(3) }}</span>
            <span class="text-ink-2 ml-1 text-xs">{{ row.bitsPerPixelWord }}</span>
          </td>
          <td class="pr-3 whitespace-nowrap" data-cell="score">
            <span
              class="number rounded px-1.5 py-0.5 font-bold"
              :class="scoreTone[row.scoreWord]"
              >{{ Math.round(row.score) }}</span
            >
            {{ row.scoreWord }}
            <span class="text-ink-2 text-xs">{{
              screenNames[row.destination.viewers[0] ?? 'desk']
            }}</span>
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>
