import type { VersionRelation } from '../identity'
import { on } from './applying'
import { versionTerm } from './makeTerm'
import type { TermContext, TermId } from './term'

const PRACTICE = 'common practice, no source'

interface VersionFacts {
  readonly id: TermId
  readonly name: string
  readonly explain: string
  readonly why: string
  /** How a bare version at the controller end is meant. */
  readonly usual: VersionRelation
  readonly applies?: (context: TermContext) => boolean
  readonly asked?: (context: TermContext) => boolean
}

const facts: readonly VersionFacts[] = [
  {
    id: 'firmware',
    name: 'Firmware',
    explain: 'What the project asks for, and what the device has. An older one may lack a function that is used.',
    why: 'A function that is asked for is missing, or the controller refuses the device.',
    usual: 'at-least',
  },
  {
    id: 'hardware',
    name: 'Hardware or serial range',
    explain: 'From which hardware revision on the project was made, and what the label says.',
    why: 'Older hardware cannot take the firmware that is asked for.',
    usual: 'at-least',
  },
  {
    id: 'description-file',
    name: 'Description file',
    explain: 'The revision of the description file in the project, and the revision of the device itself.',
    why: 'The controller expects another revision, and refuses the device or its modules.',
    usual: 'equal',
    applies: on('cyclic', 'bus'),
  },
  {
    id: 'programming-tool',
    name: 'Programming tool',
    explain: 'The version in which the project was saved, and the one on the laptop.',
    why: 'An older tool cannot open the project; a newer one changes it for good.',
    usual: 'equal',
  },
  {
    id: 'setup-tool',
    name: 'Set-up tool',
    explain:
      'The version that the device asks for, and the one on the laptop. An older tool may reach only part of a device.',
    why: 'Settings that the tool does not know stay as they are, and nobody sees them.',
    usual: 'at-least',
  },
  {
    id: 'driver',
    name: 'Driver',
    explain: 'The driver that the project or the server asks for, and the one that is installed.',
    why: 'The port or the device does not show, or shows as something else.',
    usual: 'at-least',
  },
  {
    id: 'server-version',
    name: 'Server and controller',
    explain: 'The version of the server, and that of the supervisory controller it takes in: never above the server’s.',
    why: 'A controller that is newer than its server cannot be taken in.',
    usual: 'not-above',
    applies: on('supervision'),
    asked: on('supervision'),
  },
  {
    id: 'archive-version',
    name: 'Archive copy',
    explain: 'The version of the controller, and that of the archive copy that is loaded into it.',
    why: 'A copy of another version or model is refused, or loads in part.',
    usual: 'equal',
    applies: on('supervision'),
  },
]

export const versionTerms = facts.map((each) => versionTerm({ group: 'versions', source: PRACTICE, ...each }))
