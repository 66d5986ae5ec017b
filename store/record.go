package store

import (
	"context"
	"crypto/sha256"
	"database/sql"
	"encoding/hex"
	"encoding/json"
	"errors"
	"maps"
	"os"
	"slices"
	"strconv"
	"strings"

	"exactflask/core/record/journal"
	"exactflask/core/values/finding"
)

// mostSaid is how many problems of a sort are told; one is enough to know.
const mostSaid = 20

// Mark is how far a chain had come: how many lines it had, and its last hash.
type Mark struct {
	Count int    `json:"count"`
	Hash  string `json:"hash"`
}

// Head is where every chain of a data file ended: those of the notebooks, of the ledger of each class,
// and of the installation. Kept elsewhere, or printed, it shows later that nothing was cut off.
type Head struct {
	Notebooks map[string]Mark `json:"notebooks"`
	Classes   map[string]Mark `json:"classes"` // empty for that of the installation
}

// HeadEnd is what the name of a backup's head has behind that of the backup.
const HeadEnd = ".head"

// Known tells whether chains were looked at: those of a file of an older schema are not.
func (h Head) Known() bool { return h.Classes != nil }

// Sum is one hash over all of it, to be written down.
func (h Head) Sum() string {
	sum := sha256.New()
	for _, chains := range []map[string]Mark{h.Notebooks, h.Classes} {
		for _, of := range slices.Sorted(maps.Keys(chains)) {
			for _, text := range []string{of, strconv.Itoa(chains[of].Count), chains[of].Hash} {
				write(sum, text)
			}
		}
	}
	return hex.EncodeToString(sum.Sum(nil))
}

// ReadHead reads a head that was kept.
func ReadHead(path string) (h Head, err error) {
	text, err := os.ReadFile(path)
	if err != nil {
		return h, cannotOpen(path, err)
	}
	if err := json.Unmarshal(text, &h); err != nil || h.Notebooks == nil || h.Classes == nil {
		return h, noHead.Fault("", finding.Text(path))
	}
	return h, nil
}

// Keep writes a head to a new file.
func (h Head) Keep(path string) error {
	text, err := json.MarshalIndent(h, "", " ")
	if err != nil {
		return err
	}
	f, err := os.OpenFile(path, os.O_CREATE|os.O_EXCL|os.O_WRONLY, 0o600)
	if err != nil {
		return cannotOpen(path, err)
	}
	_, err = f.Write(append(text, '\n'))
	return fullOr(errors.Join(err, f.Sync(), f.Close()))
}

// Since looks whether everything that a kept head knew of is still there as it was, and adds what is not
// to the problems.
func (v *Verified) Since(kept Head) {
	pairs := map[string][2]map[string]Mark{"notebook": {kept.Notebooks, v.Head.Notebooks}, "class": {kept.Classes, v.Head.Classes}}
	for _, what := range chained {
		for _, of := range slices.Sorted(maps.Keys(pairs[what][0])) {
			then, now := pairs[what][0][of], pairs[what][1][of]
			switch {
			case now.Count < then.Count:
				v.Problems = append(v.Problems, cutOff[what].Message(finding.Text(of), finding.Count(then.Count), finding.Count(now.Count)))
			case then.Count > 0 && v.hashes[what+" "+of][then.Count-1] != then.Hash:
				v.Problems = append(v.Problems, otherThen[what].Message(finding.Text(of), finding.Count(then.Count)))
			}
		}
	}
}

var (
	chained   = []string{"notebook", "class"}
	cutOff    = finding.Family("store.cut-off-", chained, "of", "then", "now")
	otherThen = finding.Family("store.other-then-", chained, "of", "then")
)

// ledger goes along the ledger, and compares where it ends for each row with the row.
func (v *Verified) ledger(ctx context.Context, d *sql.DB) error {
	rows, err := d.QueryContext(ctx, "SELECT seq, class_id, what, row, digest, hash FROM ledger ORDER BY seq")
	if err != nil {
		return err
	}
	stand, broken := map[string]map[string]string{}, 0
	for rows.Next() {
		var seq int64
		var class, table, id, digest, hash string
		if err := rows.Scan(&seq, &class, &table, &id, &digest, &hash); err != nil {
			return errors.Join(err, rows.Close())
		}
		m := v.Head.Classes[class]
		if sealed(m.Hash, table, id, digest) != hash && broken < mostSaid {
			v.Problems = append(v.Problems, badLedger.Message(finding.Count(int(seq)), finding.Text(table), finding.Text(id)))
			broken++
		}
		v.Head.Classes[class] = Mark{m.Count + 1, hash}
		v.hashes["class "+class] = append(v.hashes["class "+class], hash)
		if stand[table] == nil {
			stand[table] = map[string]string{}
		}
		stand[table][id] = digest
	}
	if err := errors.Join(rows.Err(), rows.Close()); err != nil {
		return err
	}
	said := 0
	say := func(c finding.Code, table, id string) {
		if said++; said <= mostSaid {
			v.Problems = append(v.Problems, c.Message(finding.Text(table), finding.Text(id)))
		}
	}
	for _, r := range records {
		known := stand[r.table]
		if err := r.each(ctx, d, "", nil, func(_, id, digest string) error {
			was, there := known[id]
			switch {
			case !there || was == gone:
				say(rowAdded, r.table, id)
			case was != digest:
				say(rowChanged, r.table, id)
			}
			delete(known, id)
			return nil
		}); err != nil {
			return err
		}
		for _, id := range slices.Sorted(maps.Keys(known)) {
			if known[id] != gone {
				say(rowGone, r.table, id)
			}
		}
	}
	return nil
}

// handedIn compares what was handed in with its receipt, and the receipt with the journal.
func (v *Verified) handedIn(ctx context.Context, d *sql.DB, chains map[string][]journal.Link) (err error) {
	rows, err := d.QueryContext(ctx, "SELECT notebook_id, version, entries, hash, receipt FROM submissions ORDER BY notebook_id, version")
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, rows.Close()) }()
	for rows.Next() {
		var notebook, hash, receipt string
		var version, entries int
		if err := rows.Scan(&notebook, &version, &entries, &hash, &receipt); err != nil {
			return err
		}
		sum := sha256.Sum256([]byte(receipt))
		links, end := chains[notebook], ""
		if entries > 0 && entries <= len(links) {
			end = links[entries-1].Hash
		}
		if hex.EncodeToString(sum[:]) != hash || entries > len(links) || !strings.Contains(receipt, "\nchain: "+end+"\n") {
			v.Problems = append(v.Problems, badReceipt.Message(finding.Text(notebook), finding.Count(version)))
		}
	}
	return rows.Err()
}

// seen compares pictures with their hashes.
func (v *Verified) seen(ctx context.Context, d *sql.DB) (err error) {
	rows, err := d.QueryContext(ctx, "SELECT notebook_id, hash, content FROM pictures")
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, rows.Close()) }()
	for rows.Next() {
		var notebook, hash string
		var content []byte
		if err := rows.Scan(&notebook, &hash, &content); err != nil {
			return err
		}
		if sum := sha256.Sum256(content); hex.EncodeToString(sum[:]) != hash {
			v.Problems = append(v.Problems, badPicture.Message(finding.Text(notebook), finding.Text(hash)))
		}
	}
	return rows.Err()
}
