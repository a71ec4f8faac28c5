export { billOf, type Bill, type BillLine } from "./bill";
export { BILL_RULES } from "./rules";
