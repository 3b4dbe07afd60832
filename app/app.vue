<script setup lang="ts">
import { NuxtPage } from '#components'
import ToastList from '~/components/frame/ToastList.vue'
</script>

<template>
  <NuxtPage />
  <ToastList />
</template>
