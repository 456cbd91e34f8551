export {
  addLoads,
  ageAtTask,
  cyclicLoad,
  shareOfLink,
  wasteOf,
  wireBytes,
  type CyclicAge,
  type CyclicExchange,
  type CyclicLoad,
} from './load'
export {
  addressOf,
  mapImage,
  piecesOf,
  piecesText,
  placeText,
  rebuilt,
  type Image,
  type ImageMap,
  type MappedChannel,
  type Piece,
  type WordCount,
} from './map'
export { packingRules, type ByteFirst, type Channel, type Head, type Module, type PackingRule } from './modules'
export { copyTrouble, pagesOf, type CopySide, type Pages } from './pages'
export { readModules } from './readModules'
