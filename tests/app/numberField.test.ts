import { mount } from '@vue/test-utils'
import { createPinia, setActivePinia } from 'pinia'
import { nextTick } from 'vue'
import { beforeEach, expect, it } from 'vitest'
import NumberField from '~/components/fields/NumberField.vue'

beforeEach(() => setActivePinia(createPinia()))

function focusedField() {
  const wrapper = mount(NumberField, {
    attachTo: document.body,
    props: { modelValue: 2750, label: 'Video bitrate' },
  })
  const field = wrapper.get('input').element
  field.focus()
  return { wrapper, field }
}

it('keeps all selected that was to be typed over, where the number changes meanwhile', async () => {
  const { wrapper, field } = focusedField()
  field.select()
  await wrapper.setProps({ modelValue: 1500 })
  await nextTick()
  expect(field.value).toBe('1500')
  expect([field.selectionStart, field.selectionEnd]).toEqual([0, 4])
  wrapper.unmount()
})

it('leaves what is being typed as it is, where the number changes meanwhile', async () => {
  const { wrapper, field } = focusedField()
  await wrapper.get('input').setValue('59')
  await wrapper.setProps({ modelValue: 1500 })
  expect(field.value).toBe('59')
  wrapper.unmount()
})
