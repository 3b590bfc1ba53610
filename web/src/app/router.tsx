import { createBrowserRouter } from "react-router";
import { DevicePage } from "../features/device";
import { WorkbenchPage } from "../features/inspection";
import { RequireSession } from "../features/session";
import { ShopPage } from "../features/shop";
import { Frame, NothingHere } from "./Frame";
import { prepareOffline } from "./prepareOffline";
import { Trouble } from "./Trouble";

// The shop and the workbench are there at once, also without a network; the rest when it is opened.
const rules = async () => ({ Component: (await import("../features/shop/RulesPage")).RulesPage });
const newEngine = async () => ({ Component: (await import("../features/engine/NewEnginePage")).NewEnginePage });
const calculators = async () => ({ Component: (await import("../features/calculators/CalculatorsPage")).default });

export const router = createBrowserRouter([
  {
    element: <RequireSession onArrived={prepareOffline} />,
    errorElement: <Trouble what="This page" />,
    children: [
      {
        element: <Frame />,
        children: [
          { index: true, element: <ShopPage /> },
          { path: "rules", lazy: rules },
          { path: "device", element: <DevicePage /> },
          { path: "calculators/:name?", lazy: calculators },
          { path: "engines/new", lazy: newEngine },
          { path: "*", element: <NothingHere /> },
        ],
      },
      { path: "inspections/:id/:part?/:cylinder?", element: <WorkbenchPage /> },
    ],
  },
]);
