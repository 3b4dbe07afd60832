<script setup lang="ts">
import { instantInWords, instantOf, wordsAt } from '@green-mantle/core/destinations'
import {
  audiences,
  type Destination,
  isLanguageTag,
  noOwnWords,
  type OwnWords,
  type WordRules,
} from '@green-mantle/core/show'
import { computed } from 'vue'
import SelectField from '~/components/fields/SelectField.vue'
import DateTimeField from '~/components/fields/DateTimeField.vue'
import { useShowStore } from '~/stores/show'
import { useToastStore } from '~/stores/toasts'
import { useDestinationEditing } from '../destinationEditing'
import OwnField from '../words/OwnField.vue'
import { tagsAsText, tagsFrom } from '../words/tags'
import ThumbnailField from '../words/ThumbnailField.vue'
import WordLimits from '../words/WordLimits.vue'

/** What is said of the show at one destination. */
const props = defineProps<{ destination: Destination }>()
const store = useShowStore()
const editing = useDestinationEditing()
const toasts = useToastStore()
const rules = computed<WordRules>(() => props.destination.rules.words)
const own = computed<OwnWords>(() => props.destination.words)
const said = computed(() => wordsAt(store.show, props.destination))

function set(changes: Partial<OwnWords>): void {
  editing.change(props.destination.id, 'Write the words of', (destination) => {
    Object.assign(destination.words, changes)
  })
}
const audienceChoices = computed(() => [
  { value: '' as const, label: `as for the show: ${store.show.words.audience}` },
  ...audiences.map((value) => ({ value, label: value })),
])
function setAudience(value: string): void {
  set({ audience: audiences.find((audience) => audience === value) ?? null })
}
function setTags(text: string | null): void {
  set({ tags: text === null ? null : tagsFrom(text) })
}
function setLanguage(language: string | null): void {
  if (language === null || isLanguageTag(language)) set({ language })
  else toasts.tell(`“${language}” is no language tag, such as en or pt-BR. It stays as it was.`)
}
function setSchedule(value: string): void {
  set({ scheduledAt: value === '' || value === store.show.startsAt ? null : value })
}
const hasOwn = computed(() => Object.values(own.value).some((value) => value !== null))
</script>

<template>
  <div class="flex flex-col gap-2.5">
    <OwnField
      label="Title"
      :own="own.title"
      :of-show="store.show.title"
      :rules="rules"
      :max="rules.mostTitle"
      @update:own="set({ title: $event })"
    />
    <OwnField
      label="Description"
      long
      :own="own.description"
      :of-show="store.show.words.description"
      :rules="rules"
      :max="rules.mostDescription"
      @update:own="set({ description: $event })"
    />
    <div class="grid grid-cols-2 gap-2">
      <OwnField
        label="Category"
        :own="own.category"
        :of-show="store.show.words.category"
        :rules="rules"
        :max="null"
        @update:own="set({ category: $event })"
      />
      <OwnField
        label="Tags"
        :own="own.tags && tagsAsText(own.tags)"
        :of-show="tagsAsText(store.show.words.tags)"
        :rules="rules"
        :max="null"
        @update:own="setTags"
      />
      <OwnField
        label="Language"
        :own="own.language"
        :of-show="store.show.words.language"
        :rules="rules"
        :max="null"
        @update:own="setLanguage"
      />
      <SelectField
        label="Audience"
        :model-value="own.audience ?? ''"
        :choices="audienceChoices"
        @update:model-value="setAudience"
      />
      <DateTimeField
        label="Announced for"
        :model-value="said.scheduledAt"
        @update:model-value="setSchedule"
      />
    </div>
    <p class="text-ink-2 text-xs">
      {{ instantInWords(instantOf(said.scheduledAt, store.show), store.show) }} in
      {{ store.show.timeZone }}
    </p>
    <ThumbnailField
      v-if="rules.thumbnail"
      :model-value="own.thumbnail"
      :inherited="store.show.words.thumbnail"
      :rules="rules.thumbnail"
      @update:model-value="set({ thumbnail: $event })"
    />
    <button v-if="hasOwn" type="button" class="button self-start" @click="set(noOwnWords)">
      Everything as for the show
    </button>
    <WordLimits :destination="destination" />
  </div>
</template>
