import { addressTerm } from './addressTerm'
import {
  channelWordTerm,
  pulsesPerUnitTerm,
  rawCountsTerm,
  signalRangeTerm,
  signalTerm,
  transformerRatioTerm,
} from './analogTerms'
import { busRateTerm, repeatersTerm, segmentStationsTerm } from './busTerms'
import { modeTerms, settingsWritersTerm, watchdogTerm } from './chargeTerms'
import { countTerm } from './countTerm'
import {
  byteOrderTerm,
  configSizeTerm,
  dataFormatTerm,
  imageTerm,
  inputSizeTerm,
  inputStatusTerm,
  outputSizeTerm,
  outputStatusTerm,
  signatureTerm,
} from './cyclicTerms'
import { dataTypeTerm } from './dataTypeTerm'
import {
  answerLengthTerm,
  checksumTerm,
  diagnosticsTerm,
  duplicateMessagesTerm,
  embeddedAnswersTerm,
  gapTerm,
  pollIntervalTerm,
  prefixTerm,
  retriesTerm,
  suffixTerm,
  timeoutTerm,
  updateIntervalTerm,
  variantTerm,
} from './exchangeTerms'
import { firstRegisterTerm } from './firstRegisterTerm'
import { functionCodeTerm } from './functionCodeTerm'
import { gatewayTerm } from './gatewayTerm'
import { lineSettingsTerm } from './lineSettingsTerm'
import {
  biasTerm,
  cableTerm,
  converterTopologyTerm,
  dropLengthTerm,
  duplexTerm,
  electricalTerm,
  flowControlTerm,
  groundTerm,
  lineLengthTerm,
  liveConnectorTerm,
  serialRoleTerm,
  terminationTerm,
  unitLoadsTerm,
} from './lineTerms'
import { maskTerm } from './maskTerm'
import { clockZoneTerm, nameTerms } from './nameTerms'
import { portTerm } from './portTerm'
import {
  addressWayTerm,
  connectionsTerm,
  largestReadTerm,
  nodeTerm,
  pageSchemeTerm,
  roleTerm,
  serviceTerm,
  slotTerm,
  textPortTerm,
  topologyTerm,
} from './reachTerms'
import { scaleTerm } from './scaleTerm'
import type { TermDefinition, TermGroup, TermId } from './term'
import { termIds } from './termIds'
import { unitIdTerm } from './unitIdTerm'
import { versionTerms } from './versionTerms'
import { wordOrderTerm } from './wordOrderTerm'

/** A term's value type is known only inside its definition. */
const definitions = [
  ...[
    addressTerm,
    maskTerm,
    gatewayTerm,
    addressWayTerm,
    portTerm,
    textPortTerm,
    pageSchemeTerm,
    unitIdTerm,
    nodeTerm,
    slotTerm,
  ],
  ...[roleTerm, serviceTerm, connectionsTerm],
  ...[lineSettingsTerm, busRateTerm, electricalTerm, duplexTerm, flowControlTerm, serialRoleTerm, cableTerm],
  ...[converterTopologyTerm, liveConnectorTerm, terminationTerm, biasTerm, groundTerm, lineLengthTerm, dropLengthTerm],
  ...[unitLoadsTerm, segmentStationsTerm, repeatersTerm, topologyTerm],
  ...[variantTerm, functionCodeTerm, firstRegisterTerm, countTerm, largestReadTerm, timeoutTerm, retriesTerm],
  ...[pollIntervalTerm, updateIntervalTerm, inputSizeTerm, inputStatusTerm, outputSizeTerm, outputStatusTerm],
  ...[configSizeTerm, imageTerm, prefixTerm, suffixTerm, gapTerm, answerLengthTerm, checksumTerm],
  ...[duplicateMessagesTerm, embeddedAnswersTerm, diagnosticsTerm],
  ...[dataTypeTerm, wordOrderTerm, byteOrderTerm, dataFormatTerm, scaleTerm, signalTerm, signalRangeTerm],
  ...[rawCountsTerm, channelWordTerm, transformerRatioTerm, pulsesPerUnitTerm],
  ...versionTerms,
  ...nameTerms,
  ...[signatureTerm, clockZoneTerm, ...modeTerms, settingsWritersTerm, watchdogTerm],
] as readonly unknown[] as readonly TermDefinition<unknown>[]

const byId = new Map(definitions.map((term) => [term.id, term]))

/** @throws RangeError for an id that is not in the catalogue */
export function termDefinition(id: TermId): TermDefinition<unknown> {
  const found = byId.get(id)
  if (!found) throw new RangeError(`No such term: ${id}`)
  return found
}

/** Every term, in the order in which the clasp shows them. */
export const termCatalogue: readonly TermDefinition<unknown>[] = termIds.map(termDefinition)

export const termGroups: Readonly<Record<TermGroup, { readonly name: string; readonly speaks: string }>> = {
  reach: { name: 'To reach it', speaks: 'address and connection' },
  line: { name: 'On the line', speaks: 'wires and characters' },
  request: { name: 'In the request', speaks: 'what is asked for' },
  words: { name: 'In the words', speaks: 'how the answer is read' },
  versions: { name: 'Versions', speaks: 'what must fit together' },
  names: { name: 'Names', speaks: 'letter for letter' },
  charge: { name: 'In charge', speaks: 'who commands, who keeps' },
}
