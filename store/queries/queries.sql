-- name: AddPerson :exec
INSERT INTO people (id, username, name, password, created) VALUES (?, ?, ?, ?, ?);

-- name: PersonByUsername :one
SELECT * FROM people WHERE username = ?;

-- name: PersonWithClasses :many
SELECT sqlc.embed(p), coalesce(m.class_id, '') AS class_id, coalesce(m.role, '') AS role, coalesce(c.name, '') AS class_name
FROM people p
LEFT JOIN memberships m ON m.person_id = p.id
LEFT JOIN classes c ON c.id = m.class_id
WHERE p.id = ?;

-- name: CountPeople :one
SELECT count(*) FROM people;

-- name: SetPreferences :exec
UPDATE people SET words = ?, units = ?, theme = ? WHERE id = ?;

-- name: SetPassword :execrows
UPDATE people SET password = ? WHERE id = ?;

-- name: AddClass :exec
INSERT INTO classes (id, name, created) VALUES (?, ?, ?);

-- name: ClassByName :one
SELECT * FROM classes WHERE name = ?;

-- name: Join :exec
INSERT INTO memberships (class_id, person_id, role) VALUES (?, ?, ?)
ON CONFLICT (class_id, person_id) DO UPDATE SET role = excluded.role;

-- name: AddPractical :exec
INSERT INTO practicals (id, revision, version, document, created) VALUES (?, ?, ?, ?, ?);

-- name: Practical :one
SELECT version, document FROM practicals WHERE id = ? AND revision = ?;

-- name: Assign :exec
INSERT INTO assignments (class_id, practical_id, revision, created) VALUES (?, ?, ?, ?)
ON CONFLICT (class_id, practical_id) DO UPDATE SET revision = excluded.revision;

-- name: Assignment :one
SELECT revision FROM assignments WHERE class_id = ? AND practical_id = ?;

-- name: AssignmentsOfClass :many
SELECT a.practical_id, a.revision, p.version, p.document
FROM assignments a JOIN practicals p ON p.id = a.practical_id AND p.revision = a.revision
WHERE a.class_id = ? ORDER BY a.created, a.practical_id;

-- name: AddNotebook :exec
INSERT INTO notebooks (id, class_id, practical_id, revision, student_id, started) VALUES (?, ?, ?, ?, ?, ?)
ON CONFLICT (class_id, practical_id, student_id) DO NOTHING;

-- name: NotebookOf :one
SELECT id FROM notebooks WHERE class_id = ? AND practical_id = ? AND student_id = ?;

-- name: Notebook :one
SELECT n.*, p.version AS version, p.document AS practical, s.name AS student_name, c.name AS class_name
FROM notebooks n
JOIN practicals p ON p.id = n.practical_id AND p.revision = n.revision
JOIN people s ON s.id = n.student_id
JOIN classes c ON c.id = n.class_id
WHERE n.id = ?;

-- name: RollOfClass :many
SELECT p.id AS person_id, p.name, coalesce(n.id, '') AS notebook_id, coalesce(n.revision, 0) AS revision,
    coalesce(s.version, 0) AS summary_version, coalesce(s.document, '') AS summary
FROM memberships m
JOIN people p ON p.id = m.person_id
LEFT JOIN notebooks n ON n.class_id = m.class_id AND n.student_id = p.id AND n.practical_id = sqlc.arg(practical_id)
LEFT JOIN summaries s ON s.notebook_id = n.id
WHERE m.class_id = sqlc.arg(class_id) AND m.role = 'student'
ORDER BY p.name;

-- name: Entries :many
SELECT document FROM entries WHERE notebook_id = ? ORDER BY seq;

-- name: AddEntry :execrows
INSERT INTO entries (id, notebook_id, document, received) VALUES (?, ?, ?, ?) ON CONFLICT (id) DO NOTHING;

-- name: NamesInClass :many
SELECT p.id, p.name FROM memberships m JOIN people p ON p.id = m.person_id WHERE m.class_id = ?;

-- name: DemoPeople :many
SELECT p.id, p.username, p.name, m.role, c.name AS class_name
FROM people p JOIN memberships m ON m.person_id = p.id JOIN classes c ON c.id = m.class_id
ORDER BY m.role, p.name;

-- name: Partners :many
SELECT pt.person_id, p.name FROM partners pt JOIN people p ON p.id = pt.person_id WHERE pt.notebook_id = ? ORDER BY pt.since;

-- name: AddPartner :exec
INSERT INTO partners (notebook_id, person_id, since) VALUES (?, ?, ?) ON CONFLICT (notebook_id, person_id) DO NOTHING;

-- name: PartnerNotebooks :many
SELECT n.id, n.revision, s.name AS student_name, coalesce(m.version, 0) AS summary_version, coalesce(m.document, '') AS summary
FROM partners pt JOIN notebooks n ON n.id = pt.notebook_id JOIN people s ON s.id = n.student_id LEFT JOIN summaries m ON m.notebook_id = n.id
WHERE pt.person_id = ? AND n.class_id = ? AND n.practical_id = ? ORDER BY pt.since;

-- name: ClassmateByUsername :one
SELECT p.id, p.name FROM people p JOIN memberships m ON m.person_id = p.id
WHERE p.username = ? AND m.class_id = ? AND m.role = 'student';

-- name: OwnReactions :many
SELECT id, name, equation FROM reactions WHERE person_id = ? ORDER BY created;

-- name: CountOwnReactions :one
SELECT count(*) FROM reactions WHERE person_id = ?;

-- name: AddReaction :exec
INSERT INTO reactions (id, person_id, name, equation, created) VALUES (?, ?, ?, ?, ?);

-- name: DropReaction :execrows
DELETE FROM reactions WHERE id = ? AND person_id = ?;

-- name: NewestRevision :one
SELECT CAST(coalesce(max(revision), 0) AS INTEGER) FROM practicals WHERE id = ?;

-- name: OwnerOf :one
SELECT class_id FROM owners WHERE practical_id = ?;

-- name: Own :exec
INSERT INTO owners (practical_id, class_id) VALUES (?, ?) ON CONFLICT (practical_id) DO NOTHING;

-- name: KeepSummary :exec
INSERT INTO summaries (notebook_id, version, document) VALUES (?, ?, ?)
ON CONFLICT (notebook_id) DO UPDATE SET version = excluded.version, document = excluded.document;
