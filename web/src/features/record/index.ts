export { FieldEntry, type Recorder } from "./FieldEntry";
export { FieldGroups } from "./FieldGroups";
export * from "./fields";
export { ListLine } from "./ListLine";
export { PairsEntry } from "./PairsEntry";
export { StepEntry } from "./StepEntry";
export * from "./units";
export { valueAt } from "./valueAt";
