import {
  AppWindow,
  Bell,
  Camera,
  Film,
  Globe,
  Image,
  Monitor,
  Palette,
  Target,
  Type,
  User,
} from '@lucide/vue'
import type { SourceKind } from '@green-mantle/core/show'
import type { Component } from 'vue'

export const sourceIcons: Record<SourceKind, Component> = {
  camera: Camera,
  screen: Monitor,
  window: AppWindow,
  picture: Image,
  text: Type,
  colour: Palette,
  'media file': Film,
  alerts: Bell,
  'goal bar': Target,
  'web page': Globe,
  guest: User,
}
