import { fileURLToPath } from "node:url";
import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

export default defineConfig({
	root: fileURLToPath(new URL(".", import.meta.url)),
	plugins: [react(), tailwindcss()],
	build: {
		outDir: "dist",
		emptyOutDir: true,
		target: "es2022",
		manifest: true,
		assetsInlineLimit: 0,
		chunkSizeWarningLimit: 900,
	},
	server: {
		port: 4311,
		// a target alone would be sent its own name as the host, and the server answers to pages of its own host only
		proxy: { "/api": { target: "http://localhost:4310", changeOrigin: false } },
	},
});
