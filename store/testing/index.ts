export { bareDatabase, begunDirectory } from "./begun";
