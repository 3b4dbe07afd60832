<script setup lang="ts">
import { scoreFromSsim } from '@green-mantle/core/media'
import { modelledScore } from '@green-mantle/core/measured'
import type { OwnPicture } from '@green-mantle/core/show'
import { renditionInWords, wholeNumber } from '@green-mantle/core/words'
import { computed } from 'vue'

/** Every encode of a measured picture, with what it is like and the score that this stands for. */
const props = defineProps<{ picture: OwnPicture }>()

const rows = computed(() =>
  [...props.picture.points]
    .sort(
      (a, b) =>
        b.framesPerSecond - a.framesPerSecond ||
        b.width - a.width ||
        a.videoBitrateKbps - b.videoBitrateKbps,
    )
    .map((point) => ({
      key: `${point.width} ${point.framesPerSecond} ${point.videoBitrateKbps}`,
      shape: renditionInWords(point),
      kbps: wholeNumber(Math.round(point.videoBitrateKbps)),
      ssim: point.ssim.toFixed(3),
      vif: point.vif.toFixed(2),
      psnr: point.psnrDecibels === null ? 'alike' : point.psnrDecibels.toFixed(1),
      score: Math.round(scoreFromSsim(point.ssim)),
      modelled: Math.round(modelledScore(point, props.picture, props.picture)),
    })),
)
</script>

<template>
  <details class="mt-1">
    <summary class="cursor-pointer">The {{ rows.length }} encodes</summary>
    <table class="mt-1">
      <caption class="text-ink-2 text-left text-xs">
        Held against the clip at its own size and the encode’s frame rate
      </caption>
      <thead class="text-ink-2 text-xs">
        <tr>
          <th scope="col" class="pr-5 text-left font-normal">Encode</th>
          <th scope="col" class="pr-5 text-right font-normal">kb/s</th>
          <th scope="col" class="pr-5 text-right font-normal">SSIM</th>
          <th scope="col" class="pr-5 text-right font-normal">VIF</th>
          <th scope="col" class="pr-5 text-right font-normal">PSNR, dB</th>
          <th scope="col" class="pr-5 text-right font-normal">score</th>
          <th scope="col" class="text-right font-normal">by the fitted form</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in rows" :key="row.key">
          <th scope="row" class="pr-5 text-left font-normal">{{ row.shape }}</th>
          <td class="number pr-5 text-right">{{ row.kbps }}</td>
          <td class="number pr-5 text-right">{{ row.ssim }}</td>
          <td class="number pr-5 text-right">{{ row.vif }}</td>
          <td class="number pr-5 text-right">{{ row.psnr }}</td>
          <td class="number pr-5 text-right">{{ row.score }}</td>
          <td class="number text-right">{{ row.modelled }}</td>
        </tr>
      </tbody>
    </table>
  </details>
</template>
