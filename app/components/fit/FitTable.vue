<script setup lang="ts">
import { type Codec, codecs, framesPerSecondChoices } from '@green-mantle/core/show'
import {
  codecNames,
  gigabytesInWords,
  judgedOnInWords,
  sizeInWords,
  wholeNumber,
} from '@green-mantle/core/words'
import { bitsPerPixelReadingsOf, recordingMegabytes } from '@green-mantle/core/media'
import { TriangleAlert } from '@lucide/vue'
import SelectField from '~/components/fields/SelectField.vue'
import ScrollBox from '~/components/frame/ScrollBox.vue'
import { useInTurn } from '~/composables/inTurn'
import { useSelectionStore } from '~/stores/selection'
import { useShowStore } from '~/stores/show'
import BitrateCell from './BitrateCell.vue'
import { useFitEditing } from './fitEditing'
import EncodeCell from './EncodeCell.vue'
import PinMark from './PinMark.vue'
import { type FitRow, readApart } from './rows'
import WishCell from './WishCell.vue'

const props = defineProps<{ rows: FitRow[] }>()
const rowsPerFrame = 3
const shown = useInTurn(() => props.rows, rowsPerFrame)
const store = useShowStore()
const selection = useSelectionStore()
const editing = useFitEditing()

function choose(row: FitRow): void {
  selection.destinationId = row.destination?.id
  selection.renditionId = row.rendition.id
}

function setSize(row: FitRow, size: string): void {
  const chosen = row.sizes.find((candidate) => sizeInWords(candidate) === size)
  if (chosen) editing.set(row, { width: chosen.width, height: chosen.height }, 'size')
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

function noteOf(row: FitRow): string {
  if (!row.recording) return row.note
  const gigabytes = recordingMegabytes(row.rendition, store.show.durationMinutes) / 1000
  return `${row.note}, ${gigabytesInWords(gigabytes)}`
}

const thinLimit = (codec: Codec): string => bitsPerPixelReadingsOf(codec).thin.toFixed(3)
</script>

<template>
  <ScrollBox class="card quiet-fields" label="Sends">
    <table class="w-full">
      <thead class="bg-sheet sticky top-0 z-10">
        <tr class="border-rule text-ink-2 border-b text-xs">
          <th class="py-2 pl-3">Destination</th>
          <th>Size</th>
          <th>fps</th>
          <th>Codec</th>
          <th>Video, kb/s</th>
          <th class="pr-2 text-right">On wire</th>
          <th>Level</th>
          <th>Viewers see</th>
          <th>Encode</th>
          <th>Matters</th>
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="row in shown"
          :key="row.key"
          class="border-rule border-b last:border-0"
          :class="isChosen(row) ? 'bg-leaf' : ''"
          :data-send="row.name"
          @focusin="choose(row)"
          @click="choose(row)"
        >
          <th scope="row" class="max-w-40 min-w-28 py-1 pr-1.5 pl-3">
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
                <span class="block truncate font-semibold" :title="row.name">{{ row.name }}</span>
                <span
                  class="text-ink-2 block truncate text-xs leading-tight font-normal"
                  :title="`${row.canvas}, ${noteOf(row)}`"
                  ><span
                    class="font-semibold"
                    :class="row.canvas === 'landscape' ? 'text-river' : 'text-foxglove'"
                    >{{ row.canvas }}</span
                  >{{ noteOf(row) ? `, ${noteOf(row)}` : '' }}</span
                >
              </span>
            </button>
          </th>
          <td class="pr-0.5">
            <div class="flex items-center">
              <SelectField
                hide-label
                class="number w-29"
                :label="`Size for ${row.name}`"
                :model-value="sizeInWords(row.rendition)"
                :choices="sizeChoices(row)"
                @update:model-value="setSize(row, $event as string)"
              />
              <PinMark :row="row" pin="size" />
            </div>
          </td>
          <td class="pr-0.5">
            <div class="flex items-center">
              <SelectField
                hide-label
                class="number w-13"
                :label="`Frame rate for ${row.name}`"
                :model-value="row.rendition.framesPerSecond"
                :choices="rateChoices"
                @update:model-value="editing.set(row, { framesPerSecond: $event }, 'frame rate')"
              />
              <PinMark :row="row" pin="frame rate" />
            </div>
          </td>
          <td class="pr-0.5">
            <div class="flex items-center">
              <SelectField
                hide-label
                class="w-18"
                :label="`Codec for ${row.name}`"
                :model-value="row.rendition.codec"
                :choices="codecChoices"
                @update:model-value="editing.set(row, { codec: $event as Codec }, 'codec')"
              />
              <PinMark :row="row" pin="codec" />
            </div>
          </td>
          <td class="pr-0.5">
            <div class="flex items-center">
              <BitrateCell :row="row" />
              <PinMark :row="row" pin="video bitrate" />
            </div>
          </td>
          <td class="number pr-2 text-right" data-cell="wire">
            {{ row.send ? wholeNumber(row.send.wireRateKbps) : 'none' }}
          </td>
          <td class="number pr-2" data-cell="level">{{ row.level ?? 'none' }}</td>
          <td class="py-1 pr-1 whitespace-nowrap" data-cell="score">
            <span :title="row.scores.map(({ screen }) => judgedOnInWords(screen)).join(', ')">
              <span class="number rounded px-1.5 py-0.5 font-bold" :class="scoreTone[row.word]">{{
                Math.round(row.score)
              }}</span>
              {{ row.word }}
            </span>
            <span
              v-for="{ screen, score, word } in readApart(row)"
              :key="screen"
              class="text-ink-2 block text-xs leading-tight"
              :title="word"
            >
              {{ Math.round(score) }} {{ judgedOnInWords(screen) }}
            </span>
            <span
              v-if="row.bitsPerPixelWord === 'thin'"
              class="text-ochre flex items-center gap-1 text-xs leading-tight"
              :title="`${row.bitsPerPixel.toFixed(3)} bits a pixel; below ${thinLimit(row.rendition.codec)} a picture of ${codecNames[row.rendition.codec]} is thin where much moves (common practice)`"
            >
              <TriangleAlert class="size-3" aria-hidden="true" /> thin bits
            </span>
          </td>
          <td class="pr-1"><EncodeCell :row="row" /></td>
          <td class="pr-1"><WishCell :row="row" /></td>
        </tr>
      </tbody>
    </table>
  </ScrollBox>
</template>
