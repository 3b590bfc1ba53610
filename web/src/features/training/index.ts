export { CasePage } from "./CasePage";
export { PlugsPage } from "./PlugsPage";
export { TrainingPage } from "./TrainingPage";
