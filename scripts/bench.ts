import { dragArea, headroomArea, loadArea, picturesArea } from '../bench/browser'
import coreArea from '../bench/core'
import { type Area, printFigures } from '../bench/figure'
import encoderLoadArea from '../bench/encoderLoad'
import listArea from '../bench/list'
import onAirArea from '../bench/onAir'
import openingArea from '../bench/opening'
import ownPictureArea from '../bench/ownPicture'
import plannerArea from '../bench/planner'
import rehearsalArea from '../bench/rehearsal'
import wireArea from '../bench/wire'
import { ensureBuild } from './build'
import { main } from './run'
import { systemPrograms } from '../server/programs/systemPrograms'
import { ensurePrograms } from './systemPackages'

const areas: Record<string, Area> = {
  core: coreArea,
  drag: dragArea,
  'encoder-load': encoderLoadArea,
  headroom: headroomArea,
  list: listArea,
  load: loadArea,
  'on-air': onAirArea,
  opening: openingArea,
  'own-picture': ownPictureArea,
  pictures: picturesArea,
  planner: plannerArea,
  rehearsal: rehearsalArea,
  wire: wireArea,
}

/** `npm run bench`, or `npm run bench -- area` for one area alone. */
main(async () => {
  const wanted = process.argv.slice(2)
  const unknown = wanted.filter((name) => !(name in areas))
  if (unknown.length > 0)
    throw new Error(
      `No such area: ${unknown.join(', ')}. There are ${Object.keys(areas).join(', ')}.`,
    )
  // Each takes minutes: what is sent is sent in real time, and encodes are encoded.
  const encoding = ['wire', 'own-picture', 'encoder-load']
  const chosen =
    wanted.length > 0 ? wanted : Object.keys(areas).filter((name) => !encoding.includes(name))
  if (chosen.some((name) => encoding.includes(name))) await ensurePrograms([systemPrograms.encoder])
  if (chosen.some((name) => !['core', 'planner', 'rehearsal', ...encoding].includes(name))) {
    await ensurePrograms([systemPrograms.database, systemPrograms.browser])
    await ensureBuild()
  }
  for (const name of chosen) printFigures(name, (await areas[name]?.()) ?? [])
})
