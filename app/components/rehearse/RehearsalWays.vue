<script setup lang="ts">
import { RouterLink, useRoute } from 'vue-router'
import { computed } from 'vue'
import { useShowStore } from '~/stores/show'

/** The two ways to rehearse: by sums, a thousand nights; for real, a minute. */
const store = useShowStore()
const route = useRoute()
const ways = computed(() => [
  { label: 'By sums', path: `/shows/${store.id}/rehearse` },
  { label: 'For real', path: `/shows/${store.id}/trial` },
])
</script>

<template>
  <nav aria-label="How to rehearse" class="border-edge flex rounded-md border">
    <RouterLink
      v-for="{ label, path } in ways"
      :key="path"
      :to="path"
      class="px-3 py-1.5 first:rounded-l-md last:rounded-r-md"
      :class="route.path === path ? 'bg-leaf font-semibold' : 'hover:bg-sunk'"
      :aria-current="route.path === path ? 'page' : undefined"
    >
      {{ label }}
    </RouterLink>
  </nav>
</template>
