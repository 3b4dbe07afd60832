<script setup lang="ts">
import { comparedVariants } from '@green-mantle/core/fit'
import {
  encodedPictureOf,
  type Crossing,
  crossingsOf,
  logarithmicBitrates,
  measuredOnCurve,
  pictureScore,
  scoreCurves,
} from '@green-mantle/core/media'
import { nextStepInWords } from '@green-mantle/core/plan'
import { kbpsInWords, renditionInWords } from '@green-mantle/core/words'
import { LineChart, ScatterChart } from 'echarts/charts'
import {
  GridComponent,
  LegendComponent,
  MarkAreaComponent,
  MarkLineComponent,
  TooltipComponent,
} from 'echarts/components'
import { use } from 'echarts/core'
import { SVGRenderer } from 'echarts/renderers'
import { computed } from 'vue'
import PlottedChart from '~/components/frame/PlottedChart.vue'
import { useChartTheme } from '~/composables/chartTheme'
import { useShowStore } from '~/stores/show'
import { bitsBuyOption, drawnRange } from './bitsBuyOption'
import { useNextStep } from './nextStep'
import type { FitRow } from './rows'

use([
  LineChart,
  ScatterChart,
  GridComponent,
  LegendComponent,
  MarkAreaComponent,
  MarkLineComponent,
  TooltipComponent,
  SVGRenderer,
])

/** How the score of a send grows with its bitrate, for each size and frame rate it could have. */
const props = defineProps<{ row: FitRow }>()
const store = useShowStore()
const { colours, text, number } = useChartTheme()

const bitrates = logarithmicBitrates(drawnRange.fromKbps, drawnRange.toKbps, 60)
const screen = computed(() => props.row.scores.map((each) => each.screen))
const picture = computed(() => encodedPictureOf(store.show))

const variants = computed(() =>
  comparedVariants(props.row.rules, props.row.sizes, store.show.canvasPair.framesPerSecond),
)
const curves = computed(() =>
  scoreCurves(props.row.rendition, variants.value, picture.value, screen.value, bitrates),
)
const measured = computed(() =>
  variants.value.flatMap((variant) =>
    measuredOnCurve(props.row.rendition, variant, picture.value, screen.value),
  ),
)
const crossings = computed(() => {
  const { rendition } = props.row
  const atRate = variants.value.filter(
    ({ framesPerSecond }) => framesPerSecond === rendition.framesPerSecond,
  )
  return crossingsOf(rendition, atRate, picture.value, screen.value, drawnRange)
})
const crossingInWords = ({ smaller, larger, videoBitrateKbps }: Crossing): string =>
  `Above ${kbpsInWords(videoBitrateKbps)} ${renditionInWords(larger)} beats ${renditionInWords(smaller)}.`

/** Of what is sent at full size; the lower steps of a ladder have none of their own. */
const nextStep = useNextStep(
  computed(() => {
    const { destination, rendition } = props.row
    return destination?.renditions[0]?.id === rendition.id ? destination.id : null
  }),
)
const nextPoint = computed(() => {
  const rendition = nextStep.value?.rendition
  if (!rendition) return null
  const { videoBitrateKbps } = rendition
  return { videoBitrateKbps, score: pictureScore(rendition, picture.value, screen.value) }
})

const option = computed(() =>
  bitsBuyOption({
    row: props.row,
    curves: curves.value,
    measured: measured.value,
    crossings: crossings.value,
    nextStep: nextPoint.value,
    colours: colours.value,
    text,
    number,
  }),
)
</script>

<template>
  <div class="flex min-h-0 flex-col">
    <div class="min-h-0 grow"><PlottedChart :option="option" /></div>
    <p v-if="measured.length > 0" class="text-ink-2 text-xs">
      Dots: encodes of your clip; the curves go through them, and beyond them they follow the model.
    </p>
    <p class="text-ink-2 text-xs">{{ crossings.map(crossingInWords).join(' ') }}</p>
    <p class="min-h-8 text-xs" role="status" data-testid="next-step">
      {{ nextStep ? nextStepInWords(nextStep) : '' }}
    </p>
  </div>
</template>
