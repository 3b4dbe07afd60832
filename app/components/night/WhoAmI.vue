<script setup lang="ts">
import SelectField from '~/components/fields/SelectField.vue'
import { computed } from 'vue'
import { useNightLogStore } from '~/stores/nightLog'
import { useShowStore } from '~/stores/show'

/** Who ticks in this window. */
const show = useShowStore()
const log = useNightLogStore()
const choices = computed(() => {
  const names = show.show.runSheet.people.map(({ name }) => name)
  const all = log.who && !names.includes(log.who) ? [log.who, ...names] : names
  return [{ value: '', label: 'nobody said' }, ...all.map((value) => ({ value, label: value }))]
})
</script>

<template>
  <SelectField v-model="log.who" label="Ticked here by" :choices="choices" />
</template>
