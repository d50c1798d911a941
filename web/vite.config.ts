import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";
import { VitePWA } from "vite-plugin-pwa";

export default defineConfig({
  base: "/static/",
  // Compiled, a screen draws anew only what a new plan changes: a tried temperature is followed without a stutter.
  plugins: [
    react({ compiler: true }),
    tailwindcss(),
    // The pages stay on the device and open without a network. What the server says is kept by the page itself.
    VitePWA({
      injectRegister: null,
      registerType: "prompt",
      manifest: {
        id: "/",
        name: "Inch Cradle",
        short_name: "Inch Cradle",
        description: "Plans and runs fibreglass and carbon layups",
        start_url: "/",
        scope: "/",
        display: "standalone",
        background_color: "#fbfcfb",
        theme_color: "#12252b",
        icons: [
          { src: "sign-192.png", sizes: "192x192", type: "image/png" },
          { src: "sign-512.png", sizes: "512x512", type: "image/png" },
          { src: "sign-512.png", sizes: "512x512", type: "image/png", purpose: "maskable" },
          { src: "sign.svg", sizes: "any", type: "image/svg+xml" },
        ],
      },
      workbox: {
        inlineWorkboxRuntime: true,
        globPatterns: ["**/*.{js,css,html,svg,png,woff2}"],
        clientsClaim: true,
        cleanupOutdatedCaches: true,
        navigateFallback: "/static/index.html",
        navigateFallbackDenylist: [/^\/(api|static|trust)(\/|$)/],
      },
    }),
  ],
});
