export { deliveryOf } from "./delivery";
export { billOf, costOf, earthMm2Of, type Bill, type BillLine } from "./bill";
export { growthStages, kitOfStage } from "./growth";
export { leaveOut, type CanWait } from "./leaveOut";
export { BILL_RULES } from "./rules";
export { noStock, stockedLines, stockProblem, type Stock, type StockedLine } from "./stock";
