import { ensureBuild } from './build'
import { main } from './run'

main(ensureBuild)
