export { kindOfDescription, termsOfDescription } from './describedKind'
export {
  descriptionFormats,
  type DescribedModule,
  type DescriptionProblem,
  type DeviceDescription,
} from './description'
export { MOST_BYTES, readDescription, tooLarge } from './readDescription'
