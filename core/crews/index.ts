export { dayOf, minutesOfCrew, orderedDay, orderedForAll, peopleOf, placeOf, travelMinutes } from "./day";
export { aimTurns, type AimTurn } from "./aimOrder";
export {
  AIM_AXES,
  DESK,
  END_SIDES,
  fieldNoteSchema,
  inOrder,
  NOTE_KINDS,
  progressAt,
  ticked,
  type AimAxis,
  type EndProgress,
  type EndSide,
  type FieldNote,
  type NoteKind,
} from "./note";
export { isOnMap, jobMap, jobMapDrawing, mapFrame, MAP_SAMPLES, mapPlaces, type JobMap, type Named } from "./jobMap";
export { clock, visitName, visitProblems, type VisitProblem } from "./problems";
export { ownLines } from "./ownLines";
export { READ_KEYS, readAt, readingIdOf, readingOfNotes, sidesOf, stateByNotes, type ReadKey } from "./reading";
export { sketchOf, type Bearing } from "./sketch";
export { linksWaiting, mendVisit, minutesFor, proposeVisits, workFor } from "./propose";
