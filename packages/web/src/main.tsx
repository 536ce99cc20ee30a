import { QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { createBrowserRouter, Link, Navigate, RouterProvider } from "react-router";
import { App } from "./App";
import { queryClient } from "./api/queries";
import { Empty } from "./ui/states";
import "./theme.css";

function NoPlace() {
	return (
		<Empty title="There is no such place.">
			Go to the{" "}
			<Link to="/materials" className="quiet-link">
				materials
			</Link>{" "}
			or the{" "}
			<Link to="/parts" className="quiet-link">
				parts
			</Link>
			.
		</Empty>
	);
}

const router = createBrowserRouter([
	{
		path: "/",
		Component: App,
		// places load in a moment; an empty frame is calmer than a flash
		HydrateFallback: () => null,
		children: [
			{ index: true, element: <Navigate to="/materials" replace /> },
			{
				path: "materials",
				lazy: async () => ({ Component: (await import("./places/materials/MaterialsPlace")).MaterialsPlace }),
			},
			{ path: "materials/:id", lazy: async () => ({ Component: (await import("./places/sheet/SheetPlace")).SheetPlace }) },
			{ path: "parts", lazy: async () => ({ Component: (await import("./places/parts/ProjectsPlace")).ProjectsPlace }) },
			{ path: "parts/:id", lazy: async () => ({ Component: (await import("./places/parts/ProjectPlace")).ProjectPlace }) },
			{ path: "*", Component: NoPlace },
		],
	},
]);

createRoot(document.getElementById("root") as HTMLElement).render(
	<StrictMode>
		<QueryClientProvider client={queryClient}>
			<RouterProvider router={router} />
		</QueryClientProvider>
	</StrictMode>,
);
