-- name: AddPerson :exec
INSERT INTO people (id, username, name, password, once, standing, created) VALUES (?, ?, ?, ?, ?, ?, ?);

-- name: PersonByUsername :one
SELECT * FROM people WHERE username = ? AND left_on = '';

-- name: PersonWithClasses :many
SELECT sqlc.embed(p), coalesce(m.class_id, '') AS class_id, coalesce(m.role, '') AS role, coalesce(m.pair, '') AS pair,
    coalesce(c.name, '') AS class_name, coalesce(c.term, '') AS term, CAST(coalesce(c.archived, '') <> '' AS INTEGER) AS archived
FROM people p
LEFT JOIN memberships m ON m.person_id = p.id
LEFT JOIN classes c ON c.id = m.class_id
WHERE p.id = ? AND p.left_on = ''
ORDER BY c.archived, m.joined, c.created;

-- name: SetPreferences :exec
UPDATE people SET words = ?, units = ?, theme = ? WHERE id = ?;

-- name: SetPassword :execrows
UPDATE people SET password = ?, once = ? WHERE id = ?;

-- name: AddSignIn :exec
INSERT INTO sign_ins (id, person_id, agent, began, seen) VALUES (?, ?, ?, ?, ?);

-- name: SignIn :one
SELECT * FROM sign_ins WHERE id = ?;

-- name: SignInsOf :many
SELECT * FROM sign_ins WHERE person_id = ? ORDER BY seen DESC;

-- name: SeeSignIn :exec
UPDATE sign_ins SET seen = ? WHERE id = ?;

-- name: EndSignIn :execrows
DELETE FROM sign_ins WHERE id = ? AND person_id = ?;

-- name: EndOtherSignIns :exec
DELETE FROM sign_ins WHERE person_id = ? AND id <> ?;

-- name: EndOldSignIns :exec
DELETE FROM sign_ins WHERE seen < ?;

-- name: AddClass :exec
INSERT INTO classes (id, name, term, created) VALUES (?, ?, ?, ?);

-- name: ClassByName :one
SELECT * FROM classes WHERE name = ?;

-- name: Join :exec
INSERT INTO memberships (class_id, person_id, role, joined) VALUES (?, ?, ?, ?)
ON CONFLICT (class_id, person_id) DO UPDATE SET role = excluded.role;

-- name: AddPractical :exec
INSERT INTO practicals (id, revision, version, document, created) VALUES (?, ?, ?, ?, ?);

-- name: Practical :one
SELECT version, document FROM practicals WHERE id = ? AND revision = ?;

-- name: Assign :exec
INSERT INTO assignments (class_id, practical_id, revision, created) VALUES (?, ?, ?, ?)
ON CONFLICT (class_id, practical_id) DO UPDATE SET revision = excluded.revision;

-- name: Assignment :one
SELECT revision, opens, due, late FROM assignments WHERE class_id = ? AND practical_id = ?;

-- name: AssignmentsOfClass :many
SELECT a.practical_id, a.revision, p.version, p.document, 1 AS is_set, a.opens, a.due, a.late, a.created AS since
FROM assignments a JOIN practicals p ON p.id = a.practical_id AND p.revision = a.revision
WHERE a.class_id = sqlc.arg(class_id)
UNION ALL
SELECT n.practical_id, n.revision, p.version, p.document, 0 AS is_set, '' AS opens, '' AS due, '' AS late, min(n.started) AS since
FROM notebooks n JOIN practicals p ON p.id = n.practical_id AND p.revision = n.revision
WHERE n.class_id = sqlc.arg(class_id)
    AND NOT EXISTS (SELECT 1 FROM assignments b WHERE b.class_id = n.class_id AND b.practical_id = n.practical_id)
GROUP BY n.practical_id
ORDER BY since, 1;

-- name: AddNotebook :exec
INSERT INTO notebooks (id, class_id, practical_id, revision, student_id, started) VALUES (?, ?, ?, ?, ?, ?)
ON CONFLICT DO NOTHING;

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
    coalesce(s.version, 0) AS summary_version, coalesce(s.document, '') AS summary, who.former
FROM (
    SELECT i.person_id, 0 AS former FROM memberships i WHERE i.class_id = sqlc.arg(class_id) AND i.role = 'student'
    UNION ALL
    SELECT o.student_id AS person_id, 1 AS former FROM notebooks o
    WHERE o.class_id = sqlc.arg(class_id) AND o.practical_id = sqlc.arg(practical_id)
        AND NOT EXISTS (SELECT 1 FROM memberships m WHERE m.class_id = o.class_id AND m.person_id = o.student_id)
) who
JOIN people p ON p.id = who.person_id
LEFT JOIN notebooks n ON n.class_id = sqlc.arg(class_id) AND n.student_id = p.id AND n.practical_id = sqlc.arg(practical_id)
LEFT JOIN summaries s ON s.notebook_id = n.id
ORDER BY who.former, p.name;

-- name: Entries :many
SELECT document FROM entries WHERE notebook_id = ? ORDER BY seq;

-- name: Chain :many
SELECT id, received, hash FROM entries WHERE notebook_id = ? ORDER BY seq;

-- name: LastLink :one
SELECT hash, received FROM entries WHERE notebook_id = ? ORDER BY seq DESC LIMIT 1;

-- name: NewestReceived :one
SELECT received FROM entries ORDER BY seq DESC LIMIT 1;

-- name: AddEntry :execrows
INSERT INTO entries (id, notebook_id, document, received, hash) VALUES (?, ?, ?, ?, ?) ON CONFLICT (id) DO NOTHING;

-- name: NamesInClass :many
SELECT p.id, p.name FROM memberships m JOIN people p ON p.id = m.person_id WHERE m.class_id = ?;

-- name: DemoPeople :many
SELECT p.id, p.username, p.name, coalesce(m.role, '') AS role, coalesce(c.name, '') AS class_name
FROM people p LEFT JOIN memberships m ON m.person_id = p.id LEFT JOIN classes c ON c.id = m.class_id
WHERE p.left_on = '' AND p.created <= (SELECT value FROM facts WHERE facts.name = 'demo')
GROUP BY p.id ORDER BY CASE m.role WHEN 'instructor' THEN 0 WHEN 'assistant' THEN 1 WHEN 'student' THEN 2 ELSE 3 END, p.name;

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

-- name: KeepExerciseAnswer :exec
INSERT INTO exercise_answers (class_id, practical_id, person_id, code, answer, correct, tries, answered)
VALUES (?, ?, ?, ?, ?, ?, 1, ?)
ON CONFLICT (class_id, practical_id, person_id, code) DO UPDATE SET
    answer = excluded.answer, correct = max(correct, excluded.correct), tries = tries + 1, answered = excluded.answered;

-- name: ExerciseAnswers :many
SELECT code, answer, correct, tries FROM exercise_answers
WHERE class_id = ? AND practical_id = ? AND person_id = ? ORDER BY code;

-- name: ExerciseOfClass :many
SELECT p.id, p.name, a.code, a.answer, a.correct, a.tries
FROM exercise_answers a JOIN people p ON p.id = a.person_id
WHERE a.class_id = ? AND a.practical_id = ? ORDER BY p.name, a.code;

-- name: NotebooksOfStudent :many
SELECT n.id, n.practical_id, n.revision, coalesce(s.version, 0) AS summary_version, coalesce(s.document, '') AS summary
FROM notebooks n LEFT JOIN summaries s ON s.notebook_id = n.id
WHERE n.class_id = ? AND n.student_id = ? ORDER BY n.started;

-- name: ExerciseTries :one
SELECT tries, correct FROM exercise_answers WHERE class_id = ? AND practical_id = ? AND person_id = ? AND code = ?;

-- name: Usernames :many
SELECT username FROM people WHERE left_on = '' ORDER BY username;

-- name: CountClasses :one
SELECT count(*) FROM classes;

-- name: SeePerson :exec
UPDATE people SET seen = ? WHERE id = ?;

-- name: SetName :exec
UPDATE people SET name = ? WHERE id = ?;

-- name: SetStanding :exec
UPDATE people SET standing = ? WHERE id = ?;

-- name: CountPeople :one
SELECT count(*) FROM people;

-- name: CountAdministrators :one
SELECT count(*) FROM people WHERE standing = 'administrator' AND left_on = '';

-- name: EveryPerson :many
SELECT id, username, name, standing, once, seen, created FROM people WHERE left_on = '' ORDER BY name, username;

-- name: RolesOf :many
SELECT m.person_id, m.class_id, c.name AS class_name, m.role FROM memberships m JOIN classes c ON c.id = m.class_id;

-- name: TakeOut :exec
UPDATE people SET left_on = ?, name = '', username = 'left-' || id, password = '', standing = '', words = '', units = '', theme = 'system'
WHERE id = ?;

-- name: TakeOutAnswers :exec
DELETE FROM exercise_answers WHERE person_id = ?;

-- name: TakeOutReactions :exec
DELETE FROM reactions WHERE person_id = ?;

-- name: TakeOutMemberships :exec
DELETE FROM memberships WHERE person_id = ?;

-- name: Class :one
SELECT * FROM classes WHERE id = ?;

-- name: EveryClass :many
SELECT c.*, (SELECT count(*) FROM memberships m WHERE m.class_id = c.id AND m.role = 'student') AS students,
    (SELECT count(*) FROM memberships m WHERE m.class_id = c.id AND m.role = 'instructor') AS instructors
FROM classes c ORDER BY c.archived, c.created DESC;

-- name: SetClass :exec
UPDATE classes SET name = ?, term = ?, archived = ? WHERE id = ?;

-- name: Members :many
SELECT p.id, p.username, p.name, p.once, p.seen, p.standing, m.role, m.bench, m.burette, m.sample, m.pair,
    (SELECT count(*) FROM notebooks n WHERE n.class_id = m.class_id AND n.student_id = p.id) AS notebooks
FROM memberships m JOIN people p ON p.id = m.person_id
WHERE m.class_id = ? ORDER BY m.role, p.name, p.username;

-- name: CountMembers :one
SELECT count(*) FROM memberships WHERE class_id = ?;

-- name: SetMember :execrows
UPDATE memberships SET role = ?, bench = ?, burette = ?, sample = ?, pair = ? WHERE class_id = ? AND person_id = ?;

-- name: Part :exec
UPDATE memberships SET pair = '' WHERE class_id = ? AND pair = ?;

-- name: Leave :execrows
DELETE FROM memberships WHERE class_id = ? AND person_id = ?;

-- name: MoveNotebooks :exec
UPDATE OR IGNORE notebooks SET class_id = sqlc.arg(to_class) WHERE class_id = sqlc.arg(from_class) AND student_id = sqlc.arg(student_id);

-- name: OpenCode :exec
INSERT INTO join_codes (class_id, code, closes) VALUES (?, ?, ?)
ON CONFLICT (class_id) DO UPDATE SET code = excluded.code, closes = excluded.closes;

-- name: CloseCode :exec
DELETE FROM join_codes WHERE class_id = ?;

-- name: CodeOf :one
SELECT code, closes FROM join_codes WHERE class_id = ?;

-- name: ClassOfCode :one
SELECT c.id, c.name, c.term, j.closes FROM join_codes j JOIN classes c ON c.id = j.class_id WHERE j.code = ? AND c.archived = '';

-- name: AddNotice :exec
INSERT INTO notices (id, class_id, person_id, text, created) VALUES (?, ?, ?, ?, ?);

-- name: DropNotice :execrows
DELETE FROM notices WHERE id = ? AND class_id = ?;

-- name: Notices :many
SELECT n.id, n.text, n.created, p.name FROM notices n JOIN people p ON p.id = n.person_id WHERE n.class_id = ? ORDER BY n.created DESC LIMIT 20;

-- name: AddAct :exec
INSERT INTO acts (what, class_id, person_id, whom, detail, at) VALUES (?, ?, ?, ?, ?, ?);

-- name: ActsOfClass :many
SELECT a.seq, a.what, a.detail, a.at, p.name AS who, coalesce(w.name, '') AS whom
FROM acts a JOIN people p ON p.id = a.person_id LEFT JOIN people w ON w.id = a.whom
WHERE a.seq < sqlc.arg(before) AND (a.class_id = sqlc.arg(class_id)
    OR a.class_id IS NULL AND a.whom IN (SELECT m.person_id FROM memberships m WHERE m.class_id = sqlc.arg(class_id)))
ORDER BY a.seq DESC LIMIT 100;

-- name: ActsOfInstallation :many
SELECT a.seq, a.what, a.detail, a.at, p.name AS who, coalesce(w.name, '') AS whom
FROM acts a JOIN people p ON p.id = a.person_id LEFT JOIN people w ON w.id = a.whom
WHERE a.seq < sqlc.arg(before) AND a.class_id IS NULL ORDER BY a.seq DESC LIMIT 100;

-- name: ActsAbout :many
SELECT a.seq, a.what, a.detail, a.at, p.name AS who, coalesce(w.name, '') AS whom
FROM acts a JOIN people p ON p.id = a.person_id LEFT JOIN people w ON w.id = a.whom
WHERE a.person_id = sqlc.arg(person) OR a.whom = sqlc.arg(person) ORDER BY a.seq;

-- name: ExerciseAnswersOf :many
SELECT class_id, practical_id, code, answer, correct, tries, answered FROM exercise_answers WHERE person_id = ? ORDER BY answered;

-- name: NotebooksOf :many
SELECT DISTINCT n.id FROM notebooks n LEFT JOIN partners pt ON pt.notebook_id = n.id
WHERE n.student_id = sqlc.arg(person) OR pt.person_id = sqlc.arg(person) ORDER BY n.id;

-- name: Fact :one
SELECT value FROM facts WHERE name = ?;

-- name: SetFact :exec
INSERT INTO facts (name, value) VALUES (?, ?) ON CONFLICT (name) DO UPDATE SET value = excluded.value;

-- name: CopyAssignments :exec
INSERT INTO assignments (class_id, practical_id, revision, created)
SELECT sqlc.arg(to_class), practical_id, revision, sqlc.arg(created) FROM assignments WHERE assignments.class_id = sqlc.arg(from_class);

-- name: Revisions :many
SELECT revision FROM practicals WHERE id = ? ORDER BY revision DESC LIMIT 100;

-- name: SetTimes :execrows
UPDATE assignments SET opens = ?, due = ?, late = ? WHERE class_id = ? AND practical_id = ?;

-- name: Unassign :execrows
DELETE FROM assignments WHERE class_id = ? AND practical_id = ?;

-- name: Unknowns :many
SELECT code, value FROM unknowns WHERE class_id = ? AND practical_id = ? ORDER BY code;

-- name: DropUnknowns :exec
DELETE FROM unknowns WHERE class_id = ? AND practical_id = ?;

-- name: AddUnknown :exec
INSERT INTO unknowns (class_id, practical_id, code, value) VALUES (?, ?, ?, ?);

-- name: Deals :many
SELECT person_id, code FROM deals WHERE class_id = ? AND practical_id = ?;

-- name: DropDeals :exec
DELETE FROM deals WHERE class_id = ? AND practical_id = ?;

-- name: AddDeal :exec
INSERT INTO deals (class_id, practical_id, person_id, code) VALUES (?, ?, ?, ?);

-- name: UnknownOf :one
SELECT d.code, coalesce(u.value, '') AS value FROM deals d
LEFT JOIN unknowns u ON u.class_id = d.class_id AND u.practical_id = d.practical_id AND u.code = d.code
WHERE d.class_id = ? AND d.practical_id = ? AND d.person_id = ?;

-- name: Begun :many
SELECT n.id, n.student_id, n.revision, p.name FROM notebooks n JOIN people p ON p.id = n.student_id
WHERE n.class_id = ? AND n.practical_id = ? ORDER BY p.name;

-- name: MoveToRevision :execrows
UPDATE notebooks SET revision = ? WHERE id = ? AND class_id = ? AND practical_id = ?;

-- name: DropSummary :exec
DELETE FROM summaries WHERE notebook_id = ?;

-- name: KeepDraft :exec
INSERT INTO practical_drafts (person_id, class_id, name, document, saved) VALUES (?, ?, ?, ?, ?)
ON CONFLICT (person_id, class_id, name) DO UPDATE SET document = excluded.document, saved = excluded.saved;

-- name: Draft :one
SELECT document, saved FROM practical_drafts WHERE person_id = ? AND class_id = ? AND name = ?;

-- name: DropDraft :exec
DELETE FROM practical_drafts WHERE person_id = ? AND class_id = ? AND name = ?;

-- name: CountDrafts :one
SELECT count(*) FROM practical_drafts WHERE person_id = ?;

-- name: TakeOutDrafts :exec
DELETE FROM practical_drafts WHERE person_id = ?;

-- name: RaiseHand :exec
INSERT INTO hands (notebook_id, raised) VALUES (?, ?) ON CONFLICT (notebook_id) DO NOTHING;

-- name: TakeHand :execrows
UPDATE hands SET taken_by = ?, taken = ? WHERE notebook_id = ? AND taken = '';

-- name: LowerHand :exec
DELETE FROM hands WHERE notebook_id = ?;

-- name: Hand :one
SELECT h.raised, h.taken, coalesce(p.name, '') AS taken_by FROM hands h LEFT JOIN people p ON p.id = h.taken_by WHERE h.notebook_id = ?;

-- name: HandsOfClass :many
SELECT h.notebook_id, h.raised, h.taken, coalesce(p.name, '') AS taken_by FROM hands h
JOIN notebooks n ON n.id = h.notebook_id LEFT JOIN people p ON p.id = h.taken_by
WHERE n.class_id = ? AND n.practical_id = ?;

-- name: SetEnd :execrows
UPDATE assignments SET ends = ? WHERE class_id = ? AND practical_id = ?;

-- name: EndOfLesson :one
SELECT ends FROM assignments WHERE class_id = ? AND practical_id = ?;

-- name: AddPicture :exec
INSERT INTO pictures (notebook_id, hash, kind, width, height, content, person_id, added) VALUES (?, ?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (notebook_id, hash) DO NOTHING;

-- name: Picture :one
SELECT kind, width, height, content FROM pictures WHERE notebook_id = ? AND hash = ?;

-- name: CountPictures :one
SELECT count(*) FROM pictures WHERE notebook_id = ?;

-- name: HandIn :exec
INSERT INTO submissions (notebook_id, version, person_id, handed, late, entries, hash, receipt, document) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?);

-- name: Submissions :many
SELECT s.version, s.person_id, p.name AS by_name, s.handed, s.late, s.entries, s.hash, s.receipt, s.returned, s.reason, coalesce(b.name, '') AS returned_by
FROM submissions s JOIN people p ON p.id = s.person_id LEFT JOIN people b ON b.id = s.returned_by WHERE s.notebook_id = ? ORDER BY s.version;

-- name: SubmissionDocument :one
SELECT document FROM submissions WHERE notebook_id = ? AND version = ?;

-- name: ReturnSubmission :execrows
UPDATE submissions SET returned = ?, returned_by = ?, reason = ? WHERE notebook_id = ? AND version = ? AND returned = '';

-- name: SubmissionsOfClass :many
SELECT s.notebook_id, s.version, s.handed, s.late, s.returned, CAST(r.made IS NOT NULL AS INTEGER) AS released FROM submissions s JOIN notebooks n ON n.id = s.notebook_id
LEFT JOIN releases r ON r.notebook_id = s.notebook_id AND r.version = s.version
WHERE n.class_id = ? AND n.practical_id = ? ORDER BY s.notebook_id, s.version;

-- name: TakeOutPictures :exec
DELETE FROM pictures WHERE person_id = ?;

-- name: PicturesOf :many
SELECT notebook_id, hash, kind, width, height, content FROM pictures WHERE person_id = ? ORDER BY added;

-- name: AddScheme :exec
INSERT INTO schemes (class_id, practical_id, revision, document, person_id, made) VALUES (?, ?, ?, ?, ?, ?);

-- name: Schemes :many
SELECT s.revision, s.document, s.made, p.name AS by_name FROM schemes s JOIN people p ON p.id = s.person_id
WHERE s.class_id = ? AND s.practical_id = ? ORDER BY s.revision;

-- name: AddAward :execrows
INSERT INTO awards (notebook_id, version, criterion, reading, marks, comment, how, person_id, made, follows)
SELECT sqlc.arg(notebook_id), sqlc.arg(version), sqlc.arg(criterion), sqlc.arg(reading), sqlc.arg(marks), sqlc.arg(comment), sqlc.arg(how), sqlc.arg(person_id), sqlc.arg(made), sqlc.arg(follows)
WHERE sqlc.arg(follows) = COALESCE((SELECT MAX(a.id) FROM awards a WHERE a.notebook_id = sqlc.arg(notebook_id) AND a.version = sqlc.arg(version)
  AND a.criterion = sqlc.arg(criterion) AND a.reading = sqlc.arg(reading)), 0);

-- name: AwardsOfNotebook :many
SELECT a.id, a.notebook_id, a.version, a.criterion, a.reading, a.marks, a.comment, a.how, a.person_id, p.name AS by_name, a.made, a.follows
FROM awards a JOIN people p ON p.id = a.person_id WHERE a.notebook_id = ? ORDER BY a.id;

-- name: AwardsOfClass :many
SELECT a.id, a.notebook_id, a.version, a.criterion, a.reading, a.marks, a.comment, a.how, a.person_id, p.name AS by_name, a.made, a.follows
FROM awards a JOIN people p ON p.id = a.person_id JOIN notebooks n ON n.id = a.notebook_id
WHERE n.class_id = ? AND n.practical_id = ? ORDER BY a.id;

-- name: CommentBank :many
SELECT a.comment, COUNT(DISTINCT a.notebook_id) AS used FROM awards a JOIN notebooks n ON n.id = a.notebook_id
JOIN memberships m ON m.class_id = n.class_id AND m.person_id = sqlc.arg(person_id) AND m.role <> 'student'
WHERE n.practical_id = sqlc.arg(practical_id) AND a.criterion = sqlc.arg(criterion) AND a.comment <> ''
GROUP BY a.comment ORDER BY used DESC, MAX(a.id) DESC LIMIT 40;

-- name: Release :execrows
INSERT INTO releases (notebook_id, version, person_id, made) VALUES (?, ?, ?, ?) ON CONFLICT DO NOTHING;

-- name: ReleasesOfNotebook :many
SELECT r.version, r.made, p.name AS by_name FROM releases r JOIN people p ON p.id = r.person_id WHERE r.notebook_id = ? ORDER BY r.version;

-- name: ReleasesOfClass :many
SELECT r.notebook_id, r.version, r.made, p.name AS by_name FROM releases r JOIN people p ON p.id = r.person_id
JOIN notebooks n ON n.id = r.notebook_id WHERE n.class_id = ? AND n.practical_id = ? ORDER BY r.made;

-- name: AddRequest :execrows
INSERT INTO requests (notebook_id, version, criterion, reason, person_id, made) VALUES (?, ?, ?, ?, ?, ?) ON CONFLICT DO NOTHING;

-- name: AnswerRequest :execrows
UPDATE requests SET answer = ?, answered_by = ?, answered = ? WHERE id = ? AND notebook_id = ? AND answered = '';

-- name: RequestsOfNotebook :many
SELECT r.id, r.notebook_id, r.version, r.criterion, r.reason, p.name AS by_name, r.made, r.answer, COALESCE(b.name, '') AS answered_name, r.answered
FROM requests r JOIN people p ON p.id = r.person_id LEFT JOIN people b ON b.id = r.answered_by WHERE r.notebook_id = ? ORDER BY r.id;

-- name: RequestsOfClass :many
SELECT r.id, r.notebook_id, r.version, r.criterion, r.reason, p.name AS by_name, r.made, r.answer, COALESCE(b.name, '') AS answered_name, r.answered
FROM requests r JOIN people p ON p.id = r.person_id LEFT JOIN people b ON b.id = r.answered_by JOIN notebooks n ON n.id = r.notebook_id
WHERE n.class_id = ? AND n.practical_id = ? ORDER BY r.id;

-- name: AddComment :exec
INSERT INTO comments (notebook_id, entry, text, person_id, made) VALUES (?, ?, ?, ?, ?);

-- name: WithdrawComment :execrows
UPDATE comments SET withdrawn = ? WHERE id = ? AND notebook_id = ? AND withdrawn = '';

-- name: Comments :many
SELECT c.id, c.entry, c.text, c.made, p.name AS by_name FROM comments c JOIN people p ON p.id = c.person_id
WHERE c.notebook_id = ? AND c.withdrawn = '' ORDER BY c.id;

-- name: SubmissionsToMark :many
SELECT s.notebook_id, s.version, s.handed, s.late, s.returned, n.student_id, p.name FROM submissions s
JOIN notebooks n ON n.id = s.notebook_id JOIN people p ON p.id = n.student_id
WHERE n.class_id = ? AND n.practical_id = ? ORDER BY p.name, s.notebook_id, s.version;

-- name: SetPairing :exec
UPDATE assignments SET pairing = ? WHERE class_id = ? AND practical_id = ?;

-- name: Pairing :one
SELECT pairing FROM assignments WHERE class_id = ? AND practical_id = ?;

-- name: DropPairs :exec
DELETE FROM practical_pairs WHERE class_id = ? AND practical_id = ?;

-- name: AddPair :exec
INSERT INTO practical_pairs (class_id, practical_id, person_id, partner_id) VALUES (?, ?, ?, ?);

-- name: Pairs :many
SELECT person_id, partner_id FROM practical_pairs WHERE class_id = ? AND practical_id = ?;

-- name: Norms :one
SELECT norms FROM norms WHERE class_id = ?;

-- name: KeepNorms :exec
INSERT INTO norms (class_id, norms) VALUES (?, ?)
ON CONFLICT (class_id) DO UPDATE SET norms = excluded.norms;

-- name: Glass :one
SELECT pieces FROM glass WHERE class_id = ?;

-- name: KeepGlass :exec
INSERT INTO glass (class_id, pieces) VALUES (?, ?)
ON CONFLICT (class_id) DO UPDATE SET pieces = excluded.pieces;

-- name: Agree :exec
INSERT INTO agreements (notebook_id, person_id, entries, at) VALUES (?, ?, ?, ?)
ON CONFLICT (notebook_id, person_id) DO UPDATE SET entries = excluded.entries, at = excluded.at;

-- name: AgreedTo :many
SELECT person_id, entries FROM agreements WHERE notebook_id = ? ORDER BY at;

-- name: EndAgreements :exec
DELETE FROM agreements WHERE notebook_id = ?;

-- name: DropPartner :execrows
DELETE FROM partners WHERE notebook_id = ? AND person_id = ?;

-- name: AwardsOf :one
SELECT count(*) FROM awards WHERE notebook_id = ? AND version = ?;

-- name: CountsOfClass :many
SELECT n.practical_id, count(DISTINCT w.person_id) AS begun,
    count(DISTINCT CASE WHEN s.version IS NOT NULL AND s.returned = '' THEN w.person_id END) AS handed_by,
    count(DISTINCT CASE WHEN s.version IS NOT NULL AND s.returned = '' AND w.own THEN n.id END) AS handed,
    count(DISTINCT CASE WHEN s.returned = '' AND r.made IS NOT NULL AND w.own THEN n.id END) AS released,
    CAST(coalesce(max(r.made), '') AS TEXT) AS last_release,
    count(DISTINCT CASE WHEN h.taken = '' THEN n.id END) AS hands,
    count(DISTINCT CASE WHEN s.version IS NULL AND (SELECT e.received FROM entries e WHERE e.notebook_id = n.id ORDER BY e.seq DESC LIMIT 1) > sqlc.arg(since) THEN w.person_id END) AS at_work
FROM (
    SELECT o.id AS notebook_id, o.student_id AS person_id, 1 AS own FROM notebooks o WHERE o.class_id = sqlc.arg(class_id)
    UNION ALL
    SELECT pt.notebook_id, pt.person_id, 0 AS own FROM partners pt JOIN notebooks b ON b.id = pt.notebook_id WHERE b.class_id = sqlc.arg(class_id)
) w
JOIN notebooks n ON n.id = w.notebook_id
JOIN memberships m ON m.class_id = n.class_id AND m.person_id = w.person_id AND m.role = 'student'
LEFT JOIN submissions s ON s.notebook_id = n.id AND s.version = (SELECT max(x.version) FROM submissions x WHERE x.notebook_id = n.id)
LEFT JOIN releases r ON r.notebook_id = s.notebook_id AND r.version = s.version
LEFT JOIN hands h ON h.notebook_id = n.id
GROUP BY n.practical_id;

-- name: UnreleasedOfClass :many
SELECT n.practical_id, s.handed, CAST(coalesce((SELECT group_concat(a.criterion, char(10)) FROM awards a WHERE a.notebook_id = s.notebook_id AND a.version = s.version AND a.reading = 1 AND a.marks <> ''
        AND NOT EXISTS (SELECT 1 FROM awards b WHERE b.notebook_id = a.notebook_id AND b.version = a.version AND b.criterion = a.criterion AND b.reading = 1 AND b.id > a.id)), '') AS TEXT) AS awarded
FROM submissions s JOIN notebooks n ON n.id = s.notebook_id
JOIN memberships m ON m.class_id = n.class_id AND m.person_id = n.student_id AND m.role = 'student'
WHERE n.class_id = ? AND s.returned = '' AND s.version = (SELECT max(x.version) FROM submissions x WHERE x.notebook_id = s.notebook_id)
    AND NOT EXISTS (SELECT 1 FROM releases r WHERE r.notebook_id = s.notebook_id AND r.version = s.version)
ORDER BY s.handed;

-- name: OpenRequestsOfClass :many
SELECT n.practical_id, count(*) AS requests, CAST(min(r.made) AS TEXT) AS oldest
FROM requests r JOIN notebooks n ON n.id = r.notebook_id WHERE n.class_id = ? AND r.answered = '' GROUP BY n.practical_id;

-- name: UnknownsOfClass :many
SELECT u.practical_id, count(*) AS unknowns,
    (SELECT count(*) FROM deals d JOIN memberships m ON m.class_id = d.class_id AND m.person_id = d.person_id AND m.role = 'student'
        WHERE d.class_id = u.class_id AND d.practical_id = u.practical_id) AS dealt
FROM unknowns u WHERE u.class_id = ? GROUP BY u.practical_id;

-- name: EndsOfClass :many
SELECT practical_id, ends FROM assignments WHERE class_id = ? AND ends <> '';

-- name: CountStudents :one
SELECT count(*) FROM memberships WHERE class_id = ? AND role = 'student';
