/**
 * How pages and data sheets call the properties of the catalogue, in English and German. The longest match in a line
 * wins; of several candidates the first whose dimension takes the number. Patterns see lower-case text with plain
 * apostrophes and hyphens.
 */
export type Synonym = {
	/** Candidates, the likeliest first. */
	readonly properties: readonly string[];
	readonly words: string;
	readonly qualifier?: string;
	/** A question that has to be answered before the value is taken. */
	readonly ask?: string;
};

export const SYNONYMS: readonly Synonym[] = [
	{
		properties: ["density"],
		words: "(?:bulk |apparent )?densit(?:y|ies)|roh?-?dichte|\\bdichte|schüttdichte|spec(?:ific|\\.)? mass",
	},
	{
		properties: ["density"],
		words: "spec(?:ific|\\.)? gravity|relative density|relative dichte",
		ask: "relative to water: take it as g/cm³?",
	},
	{
		properties: ["density"],
		words: "spec(?:ific|\\.)? weight|unit weight|spezifisches gewicht|spez\\. gewicht|wichte",
		ask: "a weight per volume: divide by g to get the density?",
	},
	{
		properties: ["youngs_modulus"],
		words:
			"(?:elastic|tensile)? ?\\(?young'?s\\)? modul(?:us|i)(?: of elasticity)?|(?:tensile |elastic )modul(?:us|i)(?: of elasticity)?|modul(?:us|i) of elasticity(?: in tension)?|elasticity modul(?:us|i)|modul(?:us|i),? ?(?:tensile|young'?s|elastic)|\\be-?\\s?modul(?:us)?\\b|elastizitätsmodul|zug-?(?:e-?)?modul|zugelastizitätsmodul|modul of elasticity",
	},
	{
		properties: ["flexural_modulus"],
		words:
			"flexural (?:elastic )?modul(?:us|i)(?: of elasticity)?|modul(?:us|i),? ?(?:of elasticity,? )?(?:in flexure|flexural|bending)|bending modul(?:us|i)|biege-?(?:e-?)?modul|biegeelastizitätsmodul",
	},
	{ properties: ["youngs_modulus", "flexural_modulus"], words: "\\bmodul(?:us)?\\b", ask: "tensile or flexural modulus?" },
	{
		properties: ["shear_modulus"],
		words:
			"shear modul(?:us|i)|modul(?:us|i) of rigidity|modul(?:us|i),? shear|schubmodul|gleitmodul|torsion(?:al|s) ?-?modul(?:us)?",
	},
	{ properties: ["bulk_modulus"], words: "bulk modul(?:us|i)|kompressions-?modul" },
	{
		properties: ["poissons_ratio"],
		words: "poisson'?s?'?(?:[ -]?(?:ratio|number|zahl|konstante))?|querkontraktions?-?zahl|querdehn(?:ungs)?-?zahl",
	},
	{
		properties: ["yield_strength"],
		words:
			"(?:0[.,]2 ?-?%? ?(?:offset )?)?(?:proof|yield) ?(?:stress|strength|point|limit)(?:,? ?\\(?(?:at )?0[.,]2 ?%(?: offset)?\\)?)?|tensile (?:strength|stress),? \\(?(?:at )?yield\\)?|(?:stress|strength) at yield|(?:0[.,]2 ?-?%? ?-?)?dehngrenze|streckgrenze|streckspannung|yield,? tensile",
	},
	{ properties: ["yield_strength"], words: "1[.,]0? ?-?% ?(?:proof (?:stress|strength)|-?dehngrenze)", qualifier: "Rp1.0" },
	{ properties: ["yield_strength"], words: "upper yield (?:point|stress|strength)|obere streckgrenze", qualifier: "ReH" },
	{ properties: ["yield_strength"], words: "lower yield (?:point|stress|strength)|untere streckgrenze", qualifier: "ReL" },
	{
		properties: ["tensile_strength"],
		words:
			"ultimate (?:tensile )?(?:strength|stress)|tensile (?:strength|stress)(?:,? \\(?ultimate\\)?)?|strength,? tensile|zugfestigkeit|\\buts\\b",
	},
	{
		properties: ["stress_at_break"],
		words: "(?:tensile )?(?:stress|strength) at (?:break|fracture)|bruchspannung|reißfestigkeit",
	},
	{
		properties: ["elongation"],
		words: "(?:tensile )?elongation(?: (?:at|after) (?:break|fracture|rupture|failure))?|bruchdehnung|reißdehnung",
	},
	{ properties: ["uniform_elongation"], words: "uniform elongation|gleichmaßdehnung" },
	{ properties: ["yield_strain"], words: "(?:elongation|strain) at yield|yield strain|streckdehnung|fließdehnung" },
	{ properties: ["strain_at_break"], words: "(?:nominal )?strain at break|(?:nominelle )?bruchdehnung \\(nominell\\)" },
	{ properties: ["reduction_of_area"], words: "reduction (?:of|in) area|brucheinschnürung|einschnürung" },
	{ properties: ["compressive_strength"], words: "compressi(?:ve|on) (?:strength|stress)|druckfestigkeit" },
	{ properties: ["shear_strength"], words: "shear (?:strength|stress)|scherfestigkeit|abscherfestigkeit" },
	{ properties: ["interlaminar_shear"], words: "inter-?laminar shear(?: strength)?|interlaminare scherfestigkeit|\\bilss\\b" },
	{ properties: ["flexural_strength"], words: "(?:flexural|bending) (?:strength|stress)|biegefestigkeit|biegespannung" },
	{
		properties: ["fatigue_limit"],
		words: "fatigue (?:limit|strength)|endurance limit|dauerfestigkeit|wechselfestigkeit|dauerschwingfestigkeit",
	},
	{ properties: ["proof_load_stress"], words: "proof load stress|prüfspannung" },
	{ properties: ["fracture_toughness"], words: "fracture toughness|bruchzähigkeit|risszähigkeit|\\bk_?ic\\b" },
	{
		properties: ["charpy_impact", "impact_energy"],
		words:
			"charpy(?:[ ,-]+(?:v-?notch|notched|unnotched))?(?: impact)?(?: (?:strength|energy|toughness))?|kerbschlag(?:arbeit|zähigkeit)|schlagzähigkeit(?: charpy)?|notched? impact(?: energy| strength)?",
	},
	{
		properties: ["izod_impact", "izod_impact_width"],
		words: "izod(?:[ ,-]+(?:notched|unnotched))?(?: impact)?(?: (?:strength|energy))?|schlagzähigkeit izod",
	},
	{
		properties: ["hardness"],
		words:
			"(?:brinell|vickers|rockwell|shore|indentation)?[ -]?(?:hardness|härte)(?:,? (?:brinell|vickers|rockwell [abc]|shore [ad]))?",
	},
	{
		properties: ["thermal_conductivity"],
		words: "(?:thermal|heat) conductivity|wärmeleitfähigkeit|wärmeleitzahl|thermische leitfähigkeit",
	},
	{
		properties: ["resistivity"],
		words: "(?:electric(?:al)?|el\\.) ?(?:conductivity|conductance)|elektrische leitfähigkeit|el\\. leitfähigkeit",
	},
	{ properties: ["thermal_conductivity", "resistivity"], words: "\\bconductivity\\b|\\bleitfähigkeit\\b" },
	{
		properties: ["resistivity"],
		words:
			"(?:electric(?:al)? |specific |volume )?(?:electrical )?resist(?:ivity|ance)|(?:spez(?:ifischer|\\.) )?(?:elektrischer |durchgangs-?)?widerstand",
	},
	{
		properties: ["thermal_expansion"],
		words:
			"(?:mean )?(?:coefficient of )?(?:linear |thermal )*(?:thermal )?expansion(?: coefficient)?(?:,? linear)?|coefficient of (?:linear )?(?:thermal )?expansion|\\bc?l?cte\\b|\\bclte\\b|(?:mittlerer )?(?:linearer )?(?:längen-?|wärme-?|thermischer )*ausdehnungs?-?koeffizient|wärmeausdehnung|längenausdehnung",
	},
	{
		properties: ["thermal_expansion"],
		words: "(?:volumetric|cubical?|volume) (?:thermal )?expansion(?: coefficient)?|(?:raum|volumen)-?ausdehnungs?-?koeffizient",
		ask: "volumetric: a third of it is the linear one. Take that?",
	},
	{
		properties: ["specific_heat"],
		words: "spec(?:ific|\\.)? heat(?: capacity)?|heat capacity|(?:spez(?:ifische|\\.) )?wärmekapazität|spez(?:ifische|\\.) wärme",
	},
	{
		properties: ["melting_temperature"],
		words: "melting (?:point|temperature|range|interval)|schmelz(?:punkt|temperatur|bereich|intervall)",
	},
	{ properties: ["solidus_temperature"], words: "solidus(?:[ -]?temperatur(?:e)?)?" },
	{ properties: ["liquidus_temperature"], words: "liquidus(?:[ -]?temperatur(?:e)?)?" },
	{
		properties: ["glass_transition"],
		words: "glass transition(?: temperature)?|glasübergang(?:stemperatur|spunkt)?|glasumwandlungstemperatur",
	},
	{
		properties: ["heat_deflection"],
		words:
			"(?:heat )?deflection temperature(?: under load)?|heat distortion temperature|\\bhdt\\b|wärmeformbeständigkeit(?:stemperatur)?",
	},
	{
		properties: ["service_temperature_max"],
		words:
			"(?:max(?:imum|\\.)?|highest|upper) (?:continuous )?(?:service|operating|use|working) temperature|(?:max(?:imale|\\.)? |obere )(?:dauer)?(?:gebrauchs|einsatz|anwendungs)-?temperatur|dauergebrauchstemperatur",
	},
	{
		properties: ["service_temperature_min"],
		words:
			"(?:min(?:imum|\\.)?|lowest|lower) (?:service|operating|use|working) temperature|(?:min(?:imale|\\.)? |untere )(?:gebrauchs|einsatz|anwendungs)-?temperatur",
	},
	{
		properties: ["service_temperature"],
		words: "(?:service|operating|use|working) temperature(?: range)?|(?:gebrauchs|einsatz|anwendungs)-?temperatur(?:bereich)?",
	},
	{
		properties: ["water_absorption"],
		words: "(?:water|moisture) (?:absorption|uptake)|wasseraufnahme|feuchte?aufnahme|feuchtigkeitsaufnahme",
	},
	{
		properties: ["shrinkage"],
		words: "(?:mou?ld(?:ing)?|casting|linear)? ?shrinkage|(?:verarbeitungs-?|guss-?)?schwindung|schwindmaß",
	},
	{
		properties: ["friction_coefficient"],
		words:
			"(?:coefficient of (?:sliding |static |dynamic )?friction|friction coefficient)|reib(?:ungs?)?-?(?:koeffizient|wert|zahl)|gleitreibungszahl",
	},
	{ properties: ["emissivity"], words: "emissivity|emissionsgrad" },
	{
		properties: ["relative_permittivity"],
		words:
			"(?:relative )?permittivity|dielectric constant|(?:relative )?permittivität(?:szahl)?|dielektrizitäts(?:zahl|konstante)",
	},
	{ properties: ["loss_tangent"], words: "(?:dielectric )?loss tangent|dissipation factor|dielektrischer verlustfaktor|tan ?δ" },
	{
		properties: ["dielectric_strength"],
		words: "(?:dielectric|electric(?:al)?) (?:breakdown )?strength|durchschlag(?:s)?festigkeit",
	},
	{ properties: ["loss_factor"], words: "(?:mechanical )?loss factor|mechanischer verlustfaktor" },
	{ properties: ["damping_ratio"], words: "damping ratio|dämpfungsgrad|dämpfungsmaß" },
	{ properties: ["relative_permeability"], words: "(?:relative |magnetic )?permeability|permeabilität(?:szahl)?" },
	{ properties: ["recoil_permeability"], words: "recoil permeability|permanente permeabilität" },
	{
		properties: ["saturation_polarisation"],
		words:
			"saturation (?:polari[sz]ation|induction|magneti[sz]ation|flux density)|sättigungs(?:polarisation|induktion|magnetisierung|flussdichte)",
	},
	{ properties: ["remanence"], words: "remanen(?:ce|z)|residual (?:induction|flux density)" },
	{ properties: ["coercivity_j"], words: "intrinsic coerciv(?:ity|e (?:force|field))|koerzitivfeldstärke h_?cj" },
	{ properties: ["coercivity_b"], words: "coerciv(?:ity|e (?:force|field)(?: strength)?)|koerzitivfeldstärke" },
	{ properties: ["energy_product"], words: "(?:max(?:imum|\\.)? )?energy product|energieprodukt" },
	{ properties: ["stacking_factor"], words: "stacking factor|lamination factor|stapelfaktor|füllfaktor" },
	{ properties: ["embodied_carbon"], words: "embodied carbon|carbon footprint|co2[- ]?fußabdruck|co2[- ]footprint" },
];

/** Symbols, as they are written at the head of a line. Upper and lower case differ: K is bulk, k conducts. */
export const SYMBOLS: readonly { readonly symbols: readonly string[]; readonly property: string; readonly qualifier?: string }[] =
	[
		{ symbols: ["rho", "ρ", "rho_m"], property: "density" },
		{ symbols: ["E", "E_t", "Et"], property: "youngs_modulus" },
		{ symbols: ["E_f", "Ef"], property: "flexural_modulus" },
		{ symbols: ["nu", "ν", "μ_P"], property: "poissons_ratio" },
		{ symbols: ["G"], property: "shear_modulus" },
		{ symbols: ["K"], property: "bulk_modulus" },
		{ symbols: ["Rm", "R_m", "UTS", "σ_M", "σM"], property: "tensile_strength" },
		{ symbols: ["Rp0.2", "Rp0,2", "R_p0.2", "Rp02", "Rp 0.2", "Rp 0,2"], property: "yield_strength", qualifier: "Rp0.2" },
		{ symbols: ["Rp1.0", "Rp1,0", "R_p1.0"], property: "yield_strength", qualifier: "Rp1.0" },
		{ symbols: ["ReH", "R_eH"], property: "yield_strength", qualifier: "ReH" },
		{ symbols: ["ReL", "R_eL"], property: "yield_strength", qualifier: "ReL" },
		{ symbols: ["Re", "R_e", "YS"], property: "yield_strength" },
		{ symbols: ["σ_Y", "σY", "sigma_Y"], property: "yield_strength", qualifier: "sigma_Y" },
		{ symbols: ["σ_B", "σB"], property: "stress_at_break" },
		{ symbols: ["A", "A5", "A_5"], property: "elongation", qualifier: "A" },
		{ symbols: ["A10", "A11.3", "A11,3"], property: "elongation", qualifier: "A11.3" },
		{ symbols: ["A50", "A50mm", "A_50mm"], property: "elongation", qualifier: "A50mm" },
		{ symbols: ["A80", "A80mm", "A_80mm"], property: "elongation", qualifier: "A80mm" },
		{ symbols: ["Ag", "A_g"], property: "uniform_elongation", qualifier: "Ag" },
		{ symbols: ["Agt", "A_gt"], property: "uniform_elongation", qualifier: "Agt" },
		{ symbols: ["Z"], property: "reduction_of_area" },
		{ symbols: ["HB", "HBW", "HV", "HRA", "HRB", "HRC", "IRHD", "Shore A", "Shore D"], property: "hardness" },
		{ symbols: ["k", "λ", "lambda"], property: "thermal_conductivity" },
		{ symbols: ["cp", "c_p"], property: "specific_heat" },
		{ symbols: ["alpha", "α", "CTE"], property: "thermal_expansion" },
		{ symbols: ["ρ_e", "rho_e", "ρ_el"], property: "resistivity" },
		{ symbols: ["Tg", "T_g"], property: "glass_transition" },
		{ symbols: ["Tm", "T_m"], property: "melting_temperature" },
		{ symbols: ["KIc", "K_Ic", "KIC"], property: "fracture_toughness" },
		{ symbols: ["KV", "KV2", "KV_2"], property: "impact_energy" },
		{ symbols: ["Br", "B_r"], property: "remanence" },
		{ symbols: ["HcB", "H_cB"], property: "coercivity_b" },
		{ symbols: ["HcJ", "H_cJ"], property: "coercivity_j" },
		{ symbols: ["ε_r", "εr"], property: "relative_permittivity" },
	];
