export { WorkbenchPage } from "./WorkbenchPage";
