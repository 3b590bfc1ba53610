export { SaveState } from "./SaveState";
export { SignOut } from "./SignOut";
