import { QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { createBrowserRouter, Link, Navigate, RouterProvider } from "react-router";
import { App } from "./App";
import { queryClient } from "./api/queries";
import { usePreferences } from "./stores/preferences";
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
		path: "/join/:ticket",
		HydrateFallback: () => null,
		lazy: async () => ({ Component: (await import("./places/entry/JoinPlace")).JoinPlace }),
	},
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
			{
				path: "materials/:id",
				lazy: async () => ({ Component: (await import("./places/sheet/SheetPlace")).SheetPlace }),
				children: [
					{ index: true, lazy: async () => ({ Component: (await import("./places/sheet/SheetPage")).SheetPage }) },
					{ path: "page", lazy: async () => ({ Component: (await import("./places/sheet/paste/PastePage")).PastePage }) },
					{ path: "values", lazy: async () => ({ Component: (await import("./places/sheet/values/ValuesPage")).ValuesPage }) },
					{
						path: "curve/:valueId",
						lazy: async () => ({ Component: (await import("./places/sheet/curve/CurvePage")).CurvePage }),
					},
				],
			},
			{ path: "solver", lazy: async () => ({ Component: (await import("./places/solver/SolverPlace")).SolverPlace }) },
			{ path: "compare", lazy: async () => ({ Component: (await import("./places/compare/ComparePlace")).ComparePlace }) },
			{ path: "paper", lazy: async () => ({ Component: (await import("./places/paper/PaperPlace")).PaperPlace }) },
			{ path: "parts", lazy: async () => ({ Component: (await import("./places/parts/ProjectsPlace")).ProjectsPlace }) },
			{
				path: "parts/:id/materials/:material",
				lazy: async () => ({ Component: (await import("./places/parts/AssignedMaterialPlace")).AssignedMaterialPlace }),
			},
			{ path: "parts/:id", lazy: async () => ({ Component: (await import("./places/parts/ProjectPlace")).ProjectPlace }) },
			{
				path: "libraries",
				lazy: async () => ({ Component: (await import("./places/libraries/LibrariesPlace")).LibrariesPlace }),
				children: [
					{ index: true, lazy: async () => ({ Component: (await import("./places/libraries/LibrariesPlace")).FirstLibrary }) },
					{
						path: "publish",
						lazy: async () => ({ Component: (await import("./places/libraries/publish/PublishPage")).PublishPage }),
					},
					{
						path: "merge",
						lazy: async () => ({ Component: (await import("./places/libraries/duplicates/MergePage")).MergePage }),
					},
					{ path: "sets/:id", lazy: async () => ({ Component: (await import("./places/libraries/SetPage")).SetPage }) },
					{ path: ":id", lazy: async () => ({ Component: (await import("./places/libraries/LibraryPage")).LibraryPage }) },
					{
						path: ":id/editions",
						lazy: async () => ({ Component: (await import("./places/libraries/ComparePage")).ComparePage }),
					},
				],
			},
			{
				path: "history/:kind/:id",
				lazy: async () => ({ Component: (await import("./places/history/HistoryPlace")).HistoryPlace }),
			},
			{ path: "people", lazy: async () => ({ Component: (await import("./places/people/PeoplePlace")).PeoplePlace }) },
			{ path: "account", lazy: async () => ({ Component: (await import("./places/people/AccountPlace")).AccountPlace }) },
			{ path: "*", Component: NoPlace },
		],
	},
]);

/** The theme is applied before anything is drawn: no flash of day at night. */
const applyTheme = ({ theme }: { theme: string }): void => {
	document.documentElement.dataset.theme = theme;
};
applyTheme(usePreferences.getState());
usePreferences.subscribe(applyTheme);

createRoot(document.getElementById("root") as HTMLElement).render(
	<StrictMode>
		<QueryClientProvider client={queryClient}>
			<RouterProvider router={router} />
		</QueryClientProvider>
	</StrictMode>,
);
