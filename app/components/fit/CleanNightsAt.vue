<script setup lang="ts">
import { watchDebounced } from '@vueuse/core'
import { onBeforeUnmount, ref } from 'vue'
import { useRehearsalStore } from '~/stores/rehearsal'

/** How many nights would stay clean with another headroom: what less of it is worth nothing without. */
const props = defineProps<{ percent: number }>()
const rehearsal = useRehearsalStore()
const counting = '; counting clean nights …'
const words = ref(counting)

/** Edits come in rows, and each makes other nights. */
const waitMilliseconds = 600
let present = new AbortController()

async function count(): Promise<void> {
  present.abort()
  const own = new AbortController()
  present = own
  words.value = counting
  const share = await rehearsal.shareAt(props.percent, own.signal).catch(() => null)
  if (own.signal.aborted) return
  words.value = share
    ? `; clean on ${Math.floor(100 * share.share)} of 100 nights, between ${Math.floor(100 * share.low)} and ${Math.ceil(100 * share.high)} by what they are drawn from`
    : '; how many nights stay clean is not known'
}
watchDebounced(() => [props.percent, rehearsal.key], count, {
  debounce: waitMilliseconds,
  immediate: true,
})
onBeforeUnmount(() => present.abort())
</script>

<template>
  <span role="status">{{ words }}</span>
</template>
