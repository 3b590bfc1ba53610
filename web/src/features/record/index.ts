export { FieldEntry, type Recorder } from "./FieldEntry";
export { FieldGroups } from "./FieldGroups";
export * from "./fields";
export { valueAt } from "./valueAt";
