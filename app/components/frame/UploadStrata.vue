<script setup lang="ts">
import { shareOfStrata, type Slab, strataOf } from '@green-mantle/core/fit'
import { rehearsalInWords } from '@green-mantle/core/rehearsal'
import { mbpsInWords, mbpsNumber, renditionInWords } from '@green-mantle/core/words'
import { computed, useTemplateRef } from 'vue'
import { useRouter } from 'vue-router'
import { useElementSize } from '~/composables/elementSize'
import { useLineNowStore } from '~/stores/lineNow'
import { useSelectionStore } from '~/stores/selection'
import { useShowStore } from '~/stores/show'

const store = useShowStore()
const selection = useSelectionStore()
const now = useLineNowStore()
const router = useRouter()

const budget = computed(() => store.verdict.budget)
const strata = computed(() => strataOf(budget.value))
const isMeasured = computed(() => budget.value.upload.basis !== 'no samples')

const percent = (share: number): string => `${share * 100}%`

/** A slab has room for "720p30", or for the size alone where there is no such shorthand. */
const shortName = ({ send }: Slab): string =>
  renditionInWords(send.rendition).replace(/ at \d+$/, '')

const slabColour = ({ send }: Slab): string =>
  send.canvas === 'landscape' ? 'var(--slab-river)' : 'var(--slab-foxglove)'

/** The part past the usable limit is madder; the rest keeps its canvas's colour. */
function slabBackground(slab: Slab): string {
  const edge = isMeasured.value ? percent(slab.shareWithin) : '100%'
  return `linear-gradient(90deg, ${slabColour(slab)} ${edge}, var(--slab-madder) ${edge})`
}

function slabInWords({ send, shareWithin }: Slab): string {
  const over = isMeasured.value && shareWithin < 1 ? ', past the usable upload' : ''
  return `${send.name}, ${mbpsInWords(send.wireRateKbps)} on the wire, ${renditionInWords(send.rendition)}${over}. Go to Fit.`
}

const tone = computed(
  () =>
    ({
      fits: 'text-moss',
      attention: 'text-ochre',
      fails: 'text-madder',
      'nothing yet': 'text-ink-2',
    })[store.verdict.state],
)
const counts = computed(() => {
  const { sends, encodeCount } = budget.value
  const plural = (count: number, word: string): string =>
    `${count} ${word}${count === 1 ? '' : 's'}`
  return `${plural(sends.length, 'send')} · ${plural(encodeCount, 'encode')}`
})

const rehearsed = computed(() => rehearsalInWords(store.show))

/** A sliver is too small to aim at; its row on Fit is the way there. */
const bar = useTemplateRef<HTMLElement>('bar')
const { width: barWidth } = useElementSize(bar)
const smallestTargetPixels = 28
const isLargeEnough = (slab: Slab): boolean => slab.width * barWidth.value >= smallestTargetPixels

function goToFit({ send }: Slab): void {
  selection.destinationId = send.destinationId
  selection.renditionId = send.rendition.id
  void router.push(`/shows/${store.id}/fit`)
}
</script>

<template>
  <footer
    aria-label="Upload strata"
    class="border-rule bg-sheet roomy:contain-layout grid shrink-0 items-center gap-x-6 gap-y-1 border-t px-4 py-2.5 md:grid-cols-[9rem_minmax(0,1fr)_14rem]"
  >
    <div>
      <p class="text-ink-2 text-xs">Upload, usable</p>
      <p v-if="isMeasured">
        <span class="font-title text-xl font-semibold">{{
          mbpsNumber(budget.upload.usableKbps)
        }}</span>
        of {{ mbpsInWords(budget.upload.measuredKbps) }}
      </p>
      <p v-else class="font-title text-lg">not measured</p>
      <p
        v-if="now.carriedKbps !== null"
        class="text-xs"
        :class="now.isShort ? 'text-madder font-semibold' : 'text-ink-2'"
        data-testid="carried-now"
      >
        {{ now.isShort ? 'short: ' : '' }}carries
        <span class="number">{{ mbpsNumber(now.carriedKbps) }}</span> now
      </p>
    </div>

    <div class="relative pt-4">
      <div ref="bar" class="border-rule relative h-10 overflow-hidden rounded border">
        <div
          class="hatched @container absolute inset-y-0 overflow-hidden"
          :title="`${store.line.headroomPercent} % headroom left alone`"
          :style="{
            left: percent(strata.headroom.from),
            width: percent(strata.headroom.width),
          }"
        >
          <span
            class="bg-sheet text-ink-2 absolute top-2.5 right-2 hidden rounded px-1 text-xs whitespace-nowrap @min-[3.25rem]:inline"
            >{{ store.line.headroomPercent }} %<span class="hidden @min-[10rem]:inline">
              headroom left alone</span
            ></span
          >
        </div>
        <div
          v-if="strata.peaks.width > 0"
          class="absolute inset-y-0 border-r border-dashed"
          :title="`Of what is left alone, ${mbpsInWords(budget.upload.peaksKbps)} for the sends’ busiest seconds`"
          :style="{
            left: percent(strata.peaks.from),
            width: percent(strata.peaks.width),
            borderColor: 'var(--edge)',
            background: 'color-mix(in srgb, var(--edge) 18%, transparent)',
          }"
          data-testid="peaks"
        />
        <div
          v-if="strata.otherTraffic.width > 0"
          class="absolute inset-y-0"
          :style="{
            left: percent(strata.otherTraffic.from),
            width: percent(strata.otherTraffic.width),
            background: 'var(--edge)',
          }"
          :title="`Other traffic, ${mbpsInWords(budget.upload.otherTrafficKbps)}`"
        />
        <component
          :is="isLargeEnough(slab) ? 'button' : 'div'"
          v-for="slab in strata.slabs"
          :key="slab.send.key"
          :type="isLargeEnough(slab) ? 'button' : undefined"
          :role="isLargeEnough(slab) ? undefined : 'img'"
          class="slab text-on-slab absolute inset-y-0 overflow-hidden border-r-2 px-1.5 text-left leading-tight"
          :style="{
            left: percent(slab.from),
            width: percent(slab.width),
            background: slabBackground(slab),
            borderColor: 'var(--sheet)',
          }"
          :aria-label="slabInWords(slab)"
          :title="slabInWords(slab)"
          @click="goToFit(slab)"
        >
          <span class="block truncate text-xs font-bold">{{ slab.send.name }}</span>
          <span class="number block truncate text-xs"
            >{{ mbpsNumber(slab.send.wireRateKbps) }} · {{ shortName(slab) }}</span
          >
        </component>
        <div
          v-if="now.carriedKbps !== null"
          class="pointer-events-none absolute bottom-0 left-0 h-1"
          :style="{
            width: percent(shareOfStrata(strata, now.carriedKbps)),
            background: now.isShort ? 'var(--slab-madder)' : 'var(--ink)',
          }"
          aria-hidden="true"
        />
      </div>
      <div
        v-if="isMeasured"
        class="bg-ink pointer-events-none absolute top-3 -bottom-1 w-0.5"
        :style="{ left: percent(strata.usableTick) }"
        aria-hidden="true"
      >
        <span class="absolute -top-3.5 -translate-x-1/2 text-xs whitespace-nowrap"
          >usable {{ mbpsNumber(budget.upload.usableKbps) }}</span
        >
      </div>
    </div>

    <div class="md:text-right" role="status" aria-live="polite">
      <p class="font-semibold" :class="tone">{{ store.verdict.short }}</p>
      <p class="text-ink-2 text-xs">
        {{ store.verdict.advice || rehearsed || counts }}
      </p>
    </div>
  </footer>
</template>

<style scoped>
.slab {
  transition:
    left 0.2s,
    width 0.2s;
}
</style>
