<script setup lang="ts">
import { NuxtPage } from '#components'
import ToastList from '~/components/frame/ToastList.vue'
import { useEscapeTakesBack } from '~/composables/escapeTakesBack'

useEscapeTakesBack()
</script>

<template>
  <NuxtPage />
  <ToastList />
</template>
