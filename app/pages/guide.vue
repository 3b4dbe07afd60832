<script setup lang="ts">
import { useHead } from '#imports'
import { marked } from 'marked'
import { useRouter } from 'vue-router'
import guide from '../../docs/guide.md?raw'

/** The guide as it stands in the repository; its pictures are served from beside it. */
const router = useRouter()
const html = marked.parse(guide.replaceAll('](screenshots/', '](/guide-pictures/'), {
  async: false,
})
useHead({ title: 'Guide · Green Mantle' })
</script>

<template>
  <main class="h-dvh overflow-y-auto" tabindex="-1">
    <div class="mx-auto max-w-3xl p-8">
      <button type="button" class="link mb-4" @click="router.back()">Back</button>
      <!-- Our own text, built in; nothing of a person's stands in it. -->
      <!-- eslint-disable-next-line vue/no-v-html -->
      <div class="guide" v-html="html" />
    </div>
  </main>
</template>

<style scoped>
.guide :deep(h1) {
  font-size: 1.9rem;
  margin-bottom: 0.75rem;
}
.guide :deep(h2) {
  font-size: 1.35rem;
  margin-top: 1.75rem;
}
.guide :deep(p) {
  margin-top: 0.6rem;
}
.guide :deep(img) {
  border: 1px solid var(--rule);
  border-radius: 0.4rem;
}
.guide :deep(code) {
  font-family: var(--font-number);
}
</style>
