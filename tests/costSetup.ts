import { afterAll, expect } from 'vitest'
import { noteCost, ownSeconds } from './processorSeconds'

const before = ownSeconds()

afterAll(() => noteCost(expect.getState().testPath ?? '', ownSeconds() - before))
