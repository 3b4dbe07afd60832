<script setup lang="ts">
import {
  findingsOf,
  type ListenedSend,
  type Listening,
  type OpenMinutes,
} from '@green-mantle/core/arrival'
import { canvasEncodesOf } from '@green-mantle/core/encoding'
import { usableUploadOf } from '@green-mantle/core/fit'
import { kbpsInWords, renditionInWords } from '@green-mantle/core/words'
import { Check, Ear, TriangleAlert } from '@lucide/vue'
import { computed } from 'vue'
import StateMark from '~/components/frame/StateMark.vue'
import { useShowStore } from '~/stores/show'
import CopiedText from './CopiedText.vue'
import NetworkReach from './NetworkReach.vue'

/** Addresses and made-up keys for the user's own encoder, and what is heard there. */
const props = defineProps<{ listening: Listening | null }>()
defineEmits<{ listen: []; end: []; open: [minutes: OpenMinutes]; close: [] }>()
const store = useShowStore()

const outputs = computed(
  () =>
    new Map(
      canvasEncodesOf(store.show)
        .flatMap(({ encodes }) => encodes.flatMap(({ outputs: own }) => own))
        .filter(({ feed }) => !feed.isRecording)
        .map((output) => [output.key, output]),
    ),
)
const usableKbps = computed(() => usableUploadOf(store.show).usableKbps)

const rows = computed(() =>
  (props.listening?.sends ?? []).flatMap((heard) => {
    const output = outputs.value.get(heard.key)
    const destination = store.show.destinations.find(({ id }) => id === output?.feed.ownerId)
    if (!output || !destination) return []
    const { report } = heard
    const isHeard = heard.isArriving && report !== null
    return [
      {
        heard,
        name: output.feed.isBackup ? `${destination.name}, second ingest` : destination.name,
        canvas: destination.canvas,
        planned: renditionInWords(output.rendition),
        state: isHeard ? ('settled' as const) : ('not begun' as const),
        words: isHeard
          ? `arriving for ${Math.round(report.seconds)} s, ${kbpsInWords(Math.round(report.meanKbps))}`
          : 'waiting',
        findings: isHeard
          ? findingsOf(report, {
              destination,
              rendition: output.rendition,
              canvasPair: store.show.canvasPair,
              usableKbps: usableKbps.value,
            })
          : [],
        isAsPlanned: isHeard,
        keyWords: keyWordsOf(heard.address),
        fromNetwork: addressesOnNetwork(heard),
      },
    ]
  }),
)
/** What a key is called where it is pasted. */
function keyWordsOf(address: string | null): string {
  if (address?.startsWith('srt:')) return 'practice key, its stream ID'
  return address?.startsWith('http:') ? 'practice key, its bearer token' : 'practice key'
}
/** The same listener from other computers. */
const addressesOnNetwork = ({ address }: ListenedSend): string[] =>
  address
    ? (props.listening?.network?.hosts ?? []).map((host) => {
        const reached = new URL(address)
        reached.hostname = host
        return reached.href
      })
    : []
const reach = computed(() =>
  props.listening?.network
    ? 'Other computers of the local network reach them too, with a practice key.'
    : 'Nothing else on the network can reach them.',
)
/** Whether the plan sends something that is not listened to yet. */
const hasChanged = computed(() => {
  const known = new Set((props.listening?.sends ?? []).map(({ key }) => key))
  return [...outputs.value.keys()].some((key) => !known.has(key))
})
</script>

<template>
  <section class="card p-3.5" aria-labelledby="point-encoder">
    <h3 id="point-encoder" class="text-lg">Point your own encoder here</h3>
    <p class="text-ink-2">
      Whatever you stream with: give it these in place of the real ones, and see what it really
      sends. {{ reach }}
    </p>
    <template v-if="listening">
      <ul class="mt-2 flex flex-col gap-3">
        <li v-for="row in rows" :key="row.heard.key" :data-listener="row.name">
          <p class="flex flex-wrap items-baseline gap-x-2">
            <span
              class="font-semibold"
              :class="row.canvas === 'landscape' ? 'text-river' : 'text-foxglove'"
              >{{ row.name }}</span
            >
            <span class="number text-ink-2 text-xs">{{ row.planned }}</span>
          </p>
          <template v-if="row.heard.address">
            <CopiedText :text="row.heard.address" what="address" :of="row.name" />
            <CopiedText
              v-for="address in row.fromNetwork"
              :key="address"
              :text="address"
              what="address on the network"
              :of="row.name"
            />
            <CopiedText
              v-if="row.heard.streamKey"
              :text="row.heard.streamKey"
              :what="row.keyWords"
              :of="row.name"
            />
            <p class="mt-1 flex items-center gap-2" role="status">
              <StateMark :state="row.state" /> {{ row.words }}
            </p>
            <p v-if="row.isAsPlanned && row.findings.length === 0" class="flex items-center gap-2">
              <Check class="text-moss size-4" aria-hidden="true" /> As planned, within its rules.
            </p>
          </template>
          <p v-else class="text-ink-2">{{ row.heard.note }}</p>
          <ul>
            <li
              v-for="finding in row.findings"
              :key="finding.words"
              class="mt-1 flex items-start gap-2"
            >
              <TriangleAlert
                class="mt-0.5 size-4 shrink-0"
                :class="finding.kind === 'breach' ? 'text-madder' : 'text-ochre'"
                aria-hidden="true"
              />
              <span>{{ finding.words }}</span>
            </li>
            <li v-for="words in row.heard.said" :key="words" class="text-ink-2 mt-1">
              {{ words }}
            </li>
          </ul>
        </li>
      </ul>
      <ul>
        <li
          v-for="(words, index) in listening.strangers"
          :key="index"
          class="mt-2 flex items-start gap-2"
        >
          <TriangleAlert class="text-ochre mt-0.5 size-4 shrink-0" aria-hidden="true" />
          {{ words }}
        </li>
      </ul>
      <NetworkReach
        :network="listening.network"
        @open="$emit('open', $event)"
        @close="$emit('close')"
      />
      <div class="mt-3 flex flex-wrap gap-2">
        <button v-if="hasChanged" type="button" class="button" @click="$emit('listen')">
          Follow the changed plan
        </button>
        <button type="button" class="button" @click="$emit('end')">Listen no more</button>
      </div>
    </template>
    <button v-else type="button" class="button mt-2" @click="$emit('listen')">
      <Ear class="size-4" /> Listen
    </button>
  </section>
</template>
