<script setup lang="ts">
import { ref, watch } from 'vue'
import { useRehearsalStore } from '~/stores/rehearsal'

/** How many nights would stay clean with another headroom: what less of it is worth nothing without. */
const props = defineProps<{ percent: number }>()
const rehearsal = useRehearsalStore()
const words = ref('; counting clean nights …')

watch(
  () => [props.percent, rehearsal.key],
  async () => {
    const asked = props.percent
    words.value = '; counting clean nights …'
    const share = await rehearsal.shareAt(asked).catch(() => null)
    if (asked !== props.percent) return
    words.value = share
      ? `; clean on ${Math.floor(100 * share.share)} of 100 nights, between ${Math.floor(100 * share.low)} and ${Math.ceil(100 * share.high)} by what they are drawn from`
      : '; how many nights stay clean is not known'
  },
  { immediate: true },
)
</script>

<template>
  <span role="status">{{ words }}</span>
</template>
