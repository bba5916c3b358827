import createCache from "@emotion/cache";
import { CacheProvider } from "@emotion/react";
import "@fontsource-variable/atkinson-hyperlegible-mono/wght.css";
import "@fontsource-variable/atkinson-hyperlegible-next/wght.css";
import "@fontsource-variable/bricolage-grotesque/wght.css";
import "@fontsource-variable/newsreader/wght.css";
import { ThemeProvider } from "@mui/material/styles";
import { QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { BrowserRouter } from "react-router";
import { queries } from "./api/bench";
import { keepOnLeaving } from "./base/settled";
import { App } from "./shell/App";
import { theme } from "./shell/theme";
import { cssVariables } from "./base/tokens";
import "./styles/index.css";

for (const [name, value] of Object.entries(cssVariables())) document.documentElement.style.setProperty(name, value);

// The page's content security policy admits styles by this nonce only.
const nonce = document.querySelector<HTMLMetaElement>('meta[name="csp-nonce"]')?.content ?? "";
const cache = createCache({ key: "tj", nonce, prepend: true });
keepOnLeaving();
const root = document.getElementById("root");
if (!root) throw new Error("the page has no root");

createRoot(root).render(
  <StrictMode>
    <CacheProvider value={cache}>
      <ThemeProvider theme={theme}>
        <QueryClientProvider client={queries}>
          <BrowserRouter>
            <App />
          </BrowserRouter>
        </QueryClientProvider>
      </ThemeProvider>
    </CacheProvider>
  </StrictMode>,
);
