/** The field that lies over a cell while something is typed in it. */
export function CellField(props: {
	text: string;
	error: string | null;
	label: string;
	onChange: (text: string) => void;
	onLeave: () => unknown;
}) {
	const { text, error, label, onChange, onLeave } = props;
	return (
		<span className="relative w-full h-full">
			<input
				// biome-ignore lint/a11y/noAutofocus: the person is typing already
				autoFocus
				className="w-full h-full bg-card text-right px-1.5 outline-none! font-semibold"
				aria-label={label}
				aria-invalid={error !== null}
				aria-describedby={error === null ? undefined : "cell-error"}
				value={text}
				onChange={(e) => onChange(e.target.value)}
				onBlur={onLeave}
			/>
			{error !== null && (
				<span
					id="cell-error"
					role="alert"
					className="floating absolute right-0 top-full z-30 w-65 px-2.5 py-1.5 text-wrong text-left whitespace-normal"
				>
					{error}
				</span>
			)}
		</span>
	);
}
