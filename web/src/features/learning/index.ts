export { TrackRecord } from "./TrackRecord";
