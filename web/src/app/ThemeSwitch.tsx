import { t } from "../language";
import { useEffect, useState } from "react";
import { Button } from "../primitives/Button";

const STORE = "fiacre-theme";
type Theme = "light" | "dark";

function remembered(): Theme {
  const stored = localStorage.getItem(STORE);
  if (stored === "light" || stored === "dark") return stored;
  return matchMedia("(prefers-color-scheme: dark)").matches ? "dark" : "light";
}

/** Light for daylight, dark for under a bonnet. */
export function ThemeSwitch() {
  const [theme, setTheme] = useState<Theme>(remembered);
  useEffect(() => {
    document.documentElement.dataset["theme"] = theme;
  }, [theme]);
  const other: Theme = theme === "light" ? "dark" : "light";
  return (
    <Button
      aria-label={t("Use the {{other}} look", { other })}
      onClick={() => {
        localStorage.setItem(STORE, other);
        setTheme(other);
      }}
    >
      {other === "dark" ? t("Dark") : t("Light")}
    </Button>
  );
}
