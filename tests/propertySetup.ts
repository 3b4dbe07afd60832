import fc from 'fast-check'
import { propertySeed, runsOf } from './tier'

// What a property does not say itself. A failure prints the seed beside what it found.
fc.configureGlobal({ numRuns: runsOf(100), seed: propertySeed })
