export { blanksOf, type Field, type Fields, type FieldType, type RowTable, type Shape, type ValuesOf } from './field'
export { deviceFields, lineFields, networkFields, nodeFields, portFields } from './lineUpRows'
export {
  acceptanceFields,
  blankPoint,
  handshakeFields,
  jobFields,
  pointFields,
  requestFields,
  standingFields,
  termFields,
} from './planRows'
export { inOrder, newestField, ownerField, rowKinds, rowTables, type AnyRow, type RowKind } from './rowKinds'
