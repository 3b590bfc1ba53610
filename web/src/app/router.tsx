import { t } from "../language";
import { createBrowserRouter } from "react-router";
import { RequireSession } from "../features/session";
import { Frame, NothingHere } from "./Frame";
import { prepareOffline } from "./prepareOffline";
import { Trouble } from "./Trouble";

// The door is there at once, every page when it is opened; without a network all of them are on the device.
const shop = async () => ({ Component: (await import("../features/shop")).ShopPage });
const device = async () => ({ Component: (await import("../features/device/DevicePage")).DevicePage });
const workbench = async () => ({ Component: (await import("../features/inspection")).WorkbenchPage });
const rules = async () => ({ Component: (await import("../features/shop/RulesPage")).RulesPage });
const people = async () => ({ Component: (await import("../features/people/PeoplePage")).PeoplePage });
const clients = async () => ({ Component: (await import("../features/people/ClientsPage")).ClientsPage });
const me = async () => ({ Component: (await import("../features/people/MePage")).MePage });
const setUp = async () => ({ Component: (await import("../features/session/WelcomePage")).SetUpPage });
const welcome = async () => ({ Component: (await import("../features/session/WelcomePage")).WelcomePage });
const forgotten = async () => ({ Component: (await import("../features/session/WelcomePage")).ForgottenPage });
const newEngine = async () => ({ Component: (await import("../features/engine/NewEnginePage")).NewEnginePage });
const engine = async () => ({ Component: (await import("../features/history/EnginePage")).EnginePage });
const due = async () => ({ Component: (await import("../features/history/DuePage")).DuePage });
const training = async () => ({ Component: (await import("../features/training")).TrainingPage });
const plugs = async () => ({ Component: (await import("../features/training")).PlugsPage });
const round = async () => ({ Component: (await import("../features/training")).CasePage });
const guide = async () => ({ Component: (await import("../features/guide/GuidePage")).GuidePage });
const calculators = async () => ({ Component: (await import("../features/calculators/CalculatorsPage")).default });

export const router = createBrowserRouter([
  { path: "set-up/:code", lazy: setUp },
  { path: "welcome/:who/:token", lazy: welcome },
  { path: "forgotten", lazy: forgotten },
  {
    element: <RequireSession onArrived={prepareOffline} />,
    errorElement: <Trouble what={t("This page")} />,
    hydrateFallbackElement: <p className="p-6 text-soft">{t("One moment ...")}</p>,
    children: [
      {
        element: <Frame />,
        children: [
          { index: true, lazy: shop },
          { path: "rules", lazy: rules },
          { path: "people", lazy: people },
          { path: "clients", lazy: clients },
          { path: "me", lazy: me },
          { path: "device", lazy: device },
          { path: "calculators/:name?", lazy: calculators },
          { path: "engines/new", lazy: newEngine },
          { path: "engines/:id", lazy: engine },
          { path: "due", lazy: due },
          { path: "guide/:step", lazy: guide },
          { path: "training", lazy: training },
          { path: "training/plugs", lazy: plugs },
          { path: "training/rounds/:id/:part?/:cylinder?", lazy: round },
          { path: "*", element: <NothingHere /> },
        ],
      },
      { path: "inspections/:id/:part?/:cylinder?", lazy: workbench },
    ],
  },
]);
