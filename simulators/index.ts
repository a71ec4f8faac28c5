export { boxesOf, type BoxedDevice } from "./boxes";
export { startPracticeBench, type PracticeBench } from "./practiceBench";
export { answerScan, startScanner } from "./scanner";
