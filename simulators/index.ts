export { boxesOf, type BoxedDevice } from "./boxes";
export * from "./network/index";
export { startPracticeBench, type PracticeBench } from "./practiceBench";
export { startSnmpAgent, type SnmpAgent, type SnmpObjects, type SnmpTable } from "./snmpAgent";
export { answerScan, startScanner } from "./scanner";
