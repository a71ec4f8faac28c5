export { deliveryOf, type Delivery } from "./delivery";
export { billOf, costOf, earthMm2Of, type Bill, type BillLine } from "./bill";
export { growthStages, kitOfStage, type StageKit } from "./growth";
export { leaveOut, type CanWait } from "./leaveOut";
export { BILL_RULES } from "./rules";
export { noStock, stockedLines, stockProblem, type Stock, type StockedLine } from "./stock";
