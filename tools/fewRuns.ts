// Where each small change to the code is tried against every test, a property that fails ends at once: nobody reads
// the smallest counterexample there, and looking for it takes minutes.
import fc from 'fast-check'

fc.configureGlobal({ endOnFailure: true })
