<script setup lang="ts">
import {
  audiences,
  isLanguageTag,
  newWordRules,
  type Show,
  type ShowWords,
} from '@green-mantle/core/show'
import LongTextField from '~/components/fields/LongTextField.vue'
import SelectField from '~/components/fields/SelectField.vue'
import TextField from '~/components/fields/TextField.vue'
import ModalDialog from '~/components/frame/ModalDialog.vue'
import { useShowStore } from '~/stores/show'
import { useToastStore } from '~/stores/toasts'
import { tagsAsText, tagsFrom } from './tags'
import ThumbnailField from './ThumbnailField.vue'

/** What is said of the show everywhere, until a destination says something else. */
defineEmits<{ close: [] }>()
const store = useShowStore()
const toasts = useToastStore()
const thumbnailRules = newWordRules.thumbnail as NonNullable<typeof newWordRules.thumbnail>
const audienceChoices = audiences.map((value) => ({ value, label: value }))

function edit(label: string, recipe: (draft: Show) => void): void {
  store.edit(label, (draft) => {
    recipe(draft)
  })
}
const set = (label: string, changes: Partial<ShowWords>): void =>
  edit(label, (draft) => void Object.assign(draft.words, changes))
function setTitle(title: string): void {
  edit('Rename the show', (draft) => void (draft.title = title))
}
function setLanguage(language: string): void {
  if (isLanguageTag(language)) set('Set the language', { language })
  else toasts.tell(`“${language}” is no language tag, such as en or pt-BR. It stays as it was.`)
}
</script>

<template>
  <ModalDialog
    title="Words for all destinations"
    description="Written once; each destination can say it differently under Says."
    width="wide"
    @close="$emit('close')"
  >
    <div class="flex flex-col gap-3">
      <TextField
        label="Title"
        required
        :model-value="store.show.title"
        @update:model-value="setTitle"
      />
      <LongTextField
        label="Description"
        :most="20000"
        :model-value="store.show.words.description"
        @update:model-value="set('Write the description', { description: $event })"
      />
      <div class="grid grid-cols-2 gap-2">
        <TextField
          label="Category"
          :model-value="store.show.words.category"
          @update:model-value="set('Set the category', { category: $event })"
        />
        <TextField
          label="Tags, separated by commas"
          :most="2000"
          :model-value="tagsAsText(store.show.words.tags)"
          @update:model-value="set('Set the tags', { tags: tagsFrom($event) })"
        />
        <TextField
          label="Language, as in en or pt-BR"
          :model-value="store.show.words.language"
          @update:model-value="setLanguage"
        />
        <SelectField
          label="Audience"
          :model-value="store.show.words.audience"
          :choices="audienceChoices"
          @update:model-value="set('Choose the audience', { audience: $event })"
        />
      </div>
      <ThumbnailField
        :model-value="store.show.words.thumbnail"
        :rules="thumbnailRules"
        @update:model-value="set('Set the thumbnail', { thumbnail: $event })"
      />
    </div>
  </ModalDialog>
</template>
