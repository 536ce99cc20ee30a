import { API_ROOT, type HeldTexture } from "@alvek/contract";
import { useState } from "react";
import { call } from "../../../api/client";
import { SHARED, useRoute } from "../../../api/queries";
import { showIssues } from "../../../api/refusals";
import { Dialog } from "../../../ui/Dialog";
import { Field } from "../../../ui/Form";
import { Failure, Loading } from "../../../ui/states";

/** Pictures that materials one may read show already; the one that is chosen comes with its size. */
export function HeldTextures({
	materialId,
	choose,
	close,
}: {
	materialId: string;
	choose: (texture: HeldTexture["texture"]) => void;
	close: () => void;
}) {
	const held = useRoute("listTextures", {}, SHARED);
	const [text, setText] = useState("");
	const fit = (held.data ?? []).filter((t) =>
		`${t.material} ${t.library} ${t.texture.name}`.toLowerCase().includes(text.trim().toLowerCase()),
	);
	const take = async (one: HeldTexture): Promise<void> => {
		const result = await call("takeTexture", { id: materialId, from: one.materialId, hash: one.texture.hash });
		if (!result.ok) return showIssues(result.issues);
		choose({ ...one.texture, offset_mm: [0, 0] });
		close();
	};
	return (
		<Dialog title="Textures held in libraries" close={close} wide>
			{held.isError && <Failure error={held.error} retry={() => held.refetch()} />}
			{held.data === undefined && !held.isError && <Loading what="The textures" />}
			{held.data?.length === 0 && (
				<p>No material that you may read shows a picture of its surface yet. Bring one in as “a picture…”.</p>
			)}
			{held.data !== undefined && held.data.length > 0 && (
				<>
					<Field label="Material, library or file" value={text} change={setText} />
					<ul className="grid grid-cols-4 max-md:grid-cols-2 gap-2.5 mt-3" aria-label="Textures">
						{fit.map((one) => (
							<li key={one.texture.hash}>
								<button
									type="button"
									className="block w-full text-left border border-line rounded-md overflow-hidden hover:border-primary"
									onClick={() => take(one)}
								>
									<img
										className="block w-full h-22 object-cover bg-sunk"
										src={`${API_ROOT}/materials/${one.materialId}/files/${one.texture.hash}?as=picture`}
										alt=""
										loading="lazy"
									/>
									<span className="block px-2 py-1.5 min-w-0">
										<span className="block font-semibold truncate">{one.material}</span>
										<span className="caption block truncate">
											{one.texture.size_mm[0]} × {one.texture.size_mm[1]} mm · {one.library}
										</span>
									</span>
								</button>
							</li>
						))}
					</ul>
					{fit.length === 0 && <p className="mt-3 text-ink2">None of these is called so.</p>}
				</>
			)}
		</Dialog>
	);
}
