import { writeFileSync } from 'node:fs'
import { plannedDemoShow } from '@green-mantle/demo'
import { startStack, storeShow } from '../tests/browser/fixtures'
const stack = await startStack()
const { id } = await storeShow(stack.application.address, plannedDemoShow)
writeFileSync('/tmp/addr', `${stack.application.address} ${id}`)
setInterval(() => {}, 1000)
