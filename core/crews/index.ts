export { dayOf, minutesOfCrew, orderedDay, orderedForAll, peopleOf, travelMinutes } from "./day";
export { aimTurns } from "./aimOrder";
export {
  DESK,
  END_SIDES,
  fieldNoteSchema,
  inOrder,
  progressAt,
  ticked,
  type AimAxis,
  type EndProgress,
  type EndSide,
  type FieldNote,
} from "./note";
export { isOnMap, jobMap, jobMapDrawing, mapFrame, MAP_SAMPLES, mapPlaces, type JobMap, type Named } from "./jobMap";
export { clock, visitName, visitProblems, type VisitProblem } from "./problems";
export { ownLines } from "./ownLines";
export { readAt, readingIdOf, readingOfNotes, sidesOf, stateByNotes, type ReadKey } from "./reading";
export { sketchOf } from "./sketch";
export { linksWaiting, mendVisit, minutesFor, proposeVisits, workFor } from "./propose";
