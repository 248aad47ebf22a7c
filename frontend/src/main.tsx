import "bootstrap/dist/css/bootstrap.min.css";
import "@fontsource-variable/source-code-pro";
import "@fontsource-variable/source-sans-3";
import "@fontsource-variable/source-serif-4";
import "./style/tokens.css";
import "./style/frame.css";
import "./style/sheet.css";
import "./style/division.css";
import "./style/layout.css";
import "./style/operations.css";
import "./style/program.css";
import "./style/tools.css";
import "./style/jobs.css";
import "./style/alternatives.css";
import "./style/floor.css";
import "./style/business.css";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { App } from "./app";

const root = document.getElementById("root");
if (root)
  createRoot(root).render(
    <StrictMode>
      <App />
    </StrictMode>,
  );
