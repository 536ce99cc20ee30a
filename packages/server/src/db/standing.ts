/** Assignments to revisions or drafts of the materials `$ids`; by the indexes of both, where an OR would read all of them. */
export const STANDING = `SELECT s.part_id, s.project_id, s.revision_id, s.draft_id FROM revision r JOIN assignment s ON s.revision_id = r.id
	WHERE r.material_id IN (SELECT value FROM json_each($ids))
	UNION ALL SELECT s.part_id, s.project_id, s.revision_id, s.draft_id FROM draft f JOIN assignment s ON s.draft_id = f.id
	WHERE f.material_id IN (SELECT value FROM json_each($ids))`;
