export { Columns, RefusedCells } from "./Columns";
export { keepColumns, recalledColumns, type Column } from "./kept";
