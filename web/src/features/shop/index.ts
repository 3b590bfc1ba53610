export { RulesPage } from "./RulesPage";
export { ShopPage } from "./ShopPage";
