export { Board } from "./Board";
