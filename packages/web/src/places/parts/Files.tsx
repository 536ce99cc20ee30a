import type { ProjectView } from "@alvek/contract";
import { leftOutInWords } from "@alvek/core/part21";
import { runMutation } from "../../api/runMutation";
import { momentOf } from "../../ui/Page";

/** Files of the project, what of each was left out, and the way to take one out again. */
export function Files({ project }: { project: ProjectView }) {
	if (project.imports.length === 0) return null;
	return (
		<section aria-label="Files" className="mt-4">
			<h3 className="font-bold">Files</h3>
			<ul>
				{project.imports.map((file) => (
					<li key={file.hash} className="py-0.75 border-b border-line2">
						<p className="flex items-baseline gap-1.5">
							<span className="min-w-0 break-words font-semibold" title={momentOf(file.at)}>
								{file.file}
							</span>
							{project.mayEdit && (
								<button
									type="button"
									className="quiet-link caption ml-auto shrink-0"
									aria-label={`Take ${file.file} out`}
									onClick={() =>
										runMutation("removeGeometry", { id: project.id, hash: file.hash }, `${file.file} is taken out with its parts`)
									}
								>
									take out
								</button>
							)}
						</p>
						{file.leftOut.length > 0 && (
							<details className="text-doubt text-sm leading-4">
								<summary className="cursor-pointer">left out, no volume: {leftOutInWords(file.leftOut)}</summary>
								<ul className="pl-3">
									{file.leftOut.slice(0, 50).map((body) => (
										<li key={body.entity} className="break-words">
											{body.name === "" ? `#${body.entity}` : body.name}
										</li>
									))}
									{file.leftOut.length > 50 && <li>and {file.leftOut.length - 50} more</li>}
								</ul>
							</details>
						)}
					</li>
				))}
			</ul>
		</section>
	);
}
