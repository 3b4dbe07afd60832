<script setup lang="ts">
import { audiences, isLanguageTag, newWordRules } from '@green-mantle/core/show'
import LongTextField from '~/components/fields/LongTextField.vue'
import SelectField from '~/components/fields/SelectField.vue'
import TextField from '~/components/fields/TextField.vue'
import ModalDialog from '~/components/frame/ModalDialog.vue'
import { useShowEditing } from '~/composables/showEditing'
import { useShowStore } from '~/stores/show'
import { useToastStore } from '~/stores/toasts'
import { tagsAsText, tagsFrom } from './tags'
import ThumbnailField from './ThumbnailField.vue'

/** What is said of the show everywhere, until a destination says something else. */
defineEmits<{ close: [] }>()
const store = useShowStore()
const editing = useShowEditing()
const toasts = useToastStore()
const thumbnailRules = newWordRules.thumbnail as NonNullable<typeof newWordRules.thumbnail>
const audienceChoices = audiences.map((value) => ({ value, label: value }))

function setLanguage(language: string): void {
  if (isLanguageTag(language)) editing.setWords('Set the language', { language })
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
        @update:model-value="editing.setDetails('Rename the show', { title: $event })"
      />
      <LongTextField
        label="Description"
        :max="20000"
        :model-value="store.show.words.description"
        @update:model-value="editing.setWords('Write the description', { description: $event })"
      />
      <div class="grid grid-cols-2 gap-2">
        <TextField
          label="Category"
          :model-value="store.show.words.category"
          @update:model-value="editing.setWords('Set the category', { category: $event })"
        />
        <TextField
          label="Tags, separated by commas"
          :max="2000"
          :model-value="tagsAsText(store.show.words.tags)"
          @update:model-value="editing.setWords('Set the tags', { tags: tagsFrom($event) })"
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
          @update:model-value="editing.setWords('Choose the audience', { audience: $event })"
        />
      </div>
      <ThumbnailField
        :model-value="store.show.words.thumbnail"
        :rules="thumbnailRules"
        @update:model-value="editing.setWords('Set the thumbnail', { thumbnail: $event })"
      />
    </div>
  </ModalDialog>
</template>
