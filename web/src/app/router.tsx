import { createBrowserRouter } from "react-router";
import { NewEnginePage } from "../features/engine";
import { WorkbenchPage } from "../features/inspection";
import { RequireSession } from "../features/session";
import { ShopPage } from "../features/shop";
import { Frame, NothingHere } from "./Frame";

export const router = createBrowserRouter([
  {
    element: <RequireSession />,
    children: [
      {
        element: <Frame />,
        children: [
          { index: true, element: <ShopPage /> },
          { path: "engines/new", element: <NewEnginePage /> },
          { path: "*", element: <NothingHere /> },
        ],
      },
      { path: "inspections/:id", element: <WorkbenchPage /> },
    ],
  },
]);
