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
