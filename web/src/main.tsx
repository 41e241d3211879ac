import "@fontsource-variable/fraunces/soft.css";
import "@fontsource-variable/atkinson-hyperlegible-next";
import "./kit/tokens.css";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { setNonce } from "get-nonce";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { BrowserRouter } from "react-router";
import { Problem } from "./api/problem";
import { watchSession } from "./api/queries";
import { App } from "./app/App";
import { KeysProvider } from "./kit/keys";

// Styles that the dialogs write themselves are let in by what the server said with this page.
setNonce(document.querySelector<HTMLMetaElement>('meta[name="style-nonce"]')?.content ?? "");

const cache: QueryClient = new QueryClient({
  defaultOptions: {
    queries: {
      retry: (count, error) => !(error instanceof Problem && !error.away) && count < 2,
      networkMode: "always",
    },
    mutations: { networkMode: "always" },
  },
});

watchSession(cache);

// Only where the browser lets it: over HTTPS, or on this very machine.
if (import.meta.env.PROD && "serviceWorker" in navigator)
  window.addEventListener("load", () => void navigator.serviceWorker.register("/sw.js").catch(() => {}));

const root = document.getElementById("root");
if (root)
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={cache}>
        <BrowserRouter>
          <KeysProvider>
            <App />
          </KeysProvider>
        </BrowserRouter>
      </QueryClientProvider>
    </StrictMode>,
  );
