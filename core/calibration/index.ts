export { learnedPage, type LearnedPage, type TaughtBy } from "./learnedPage";
export { learnableOf, type Learnable } from "./readings";
