<script setup lang="ts">
import { useTurns } from '~/composables/inTurn'

/** What is costly to build and less looked at: it comes in a frame of its own, after what asked before it. */
const turns = useTurns()
</script>

<template>
  <slot v-if="turns > 0" />
  <slot v-else name="meanwhile" />
</template>
