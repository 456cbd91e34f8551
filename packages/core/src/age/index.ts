export { ageAlong, changesFor, type Age, type AgeChange, type AgeShare, type AgeStage, type Viewer } from './age'
