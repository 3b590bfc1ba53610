import { createBrowserRouter } from "react-router";
import { NewEnginePage } from "../features/engine";
import { WorkbenchPage } from "../features/inspection";
import { RequireSession } from "../features/session";
import { RulesPage, ShopPage } from "../features/shop";
import { Frame, NothingHere } from "./Frame";

const calculators = async () => ({ Component: (await import("../features/calculators/CalculatorsPage")).default });

export const router = createBrowserRouter([
  {
    element: <RequireSession />,
    children: [
      {
        element: <Frame />,
        children: [
          { index: true, element: <ShopPage /> },
          { path: "rules", element: <RulesPage /> },
          { path: "calculators/:name?", lazy: calculators },
          { path: "engines/new", element: <NewEnginePage /> },
          { path: "*", element: <NothingHere /> },
        ],
      },
      { path: "inspections/:id", element: <WorkbenchPage /> },
    ],
  },
]);
