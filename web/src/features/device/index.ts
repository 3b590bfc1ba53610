export { DevicePage } from "./DevicePage";
export { SaveState } from "./SaveState";
export { SignOut } from "./SignOut";
