export { answerScan, startScanner } from "./scanner";
