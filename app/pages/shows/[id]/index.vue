<script setup lang="ts">
import { definePageMeta } from '#imports'

definePageMeta({
  redirect: (to) => ({ path: `/shows/${String(to.params.id)}/canvases`, replace: true }),
})
</script>

<template><div /></template>
