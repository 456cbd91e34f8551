export { TermsPage } from './termsPage'
