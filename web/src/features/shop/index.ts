export { ShopPage } from "./ShopPage";
