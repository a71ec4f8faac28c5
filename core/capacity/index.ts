export { airtimeShare } from "./airtime";
