import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

export default defineConfig({
  base: "/static/",
  // Compiled, a screen draws anew only what a new plan changes: a tried temperature is followed without a stutter.
  plugins: [react({ compiler: true }), tailwindcss()],
});
