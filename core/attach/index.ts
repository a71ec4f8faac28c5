export { attachList, type Attached, type AttachedList } from "./attach";
