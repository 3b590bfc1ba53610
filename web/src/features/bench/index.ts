export { beside, inWorkOrder, worked } from "./order";
export { OrderEntry } from "./OrderEntry";
