export { PhotoStrip } from "./PhotoStrip";
export { usePhotos, type Photos } from "./usePhotos";
