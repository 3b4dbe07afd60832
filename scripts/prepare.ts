import { prepareTypes } from './build'
import { main } from './run'

main(prepareTypes)
