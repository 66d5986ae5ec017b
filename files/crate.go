package files

import (
	"archive/zip"
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"path"
	"slices"
	"strings"
	"time"

	"exactflask/core/values/finding"
	"exactflask/formats"
)

// What an archive may hold when it is read.
const (
	MaxArchive  = 32 << 20 // bytes, packed and unpacked
	maxMembers  = 200
	maxMember   = 16 << 20
	crateFile   = "ro-crate-metadata.json"
	documentOf  = "notebook.json"
	pictureRoom = "pictures/"
)

var (
	noArchive      = finding.Declare("archive.none")
	archiveLarge   = finding.Declare("archive.large", "most")
	archiveName    = finding.Declare("archive.name", "name")
	archiveMissing = finding.Declare("archive.missing", "name")
	archiveChanged = finding.Declare("archive.changed", "name")
)

// member is a file of an archive.
type member struct {
	name, kind, about string
	content           []byte
}

// Archive writes all of a report as an RO-Crate 1.1: the open document, PDF, workbook, CSV,
// pictures and receipts, with a manifest that has the SHA-256 of each. Source:
// https://w3id.org/ro/crate/1.1.
func Archive(to io.Writer, r Report) error {
	members, err := membersOf(r)
	if err != nil {
		return err
	}
	z := zip.NewWriter(to)
	for _, m := range append([]member{{name: crateFile, content: manifest(r, members)}}, members...) {
		w, err := z.CreateHeader(&zip.FileHeader{Name: m.name, Method: zip.Deflate, Modified: r.Made.UTC()})
		if err != nil {
			return fmt.Errorf("writing an archive: %w", err)
		}
		if _, err := w.Write(m.content); err != nil {
			return fmt.Errorf("writing an archive: %w", err)
		}
	}
	return z.Close()
}

func membersOf(r Report) ([]member, error) {
	var out []member
	document, err := json.MarshalIndent(r.Document, "", "  ")
	if err != nil {
		return nil, fmt.Errorf("writing the document: %w", err)
	}
	out = append(out, member{documentOf, "application/json", "practical and journal as an open document", document})
	for _, f := range []struct {
		name, kind, about string
		write             func(io.Writer) error
	}{
		{"report.pdf", "application/pdf", "the report, to read and print", func(w io.Writer) error { return PDF(w, r, A4) }},
		{"report.xlsx", "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet", "readings and working with formulas",
			func(w io.Writer) error { return XLSX(w, r) }},
		{"readings.csv", "text/csv", "every reading, a line each", func(w io.Writer) error { return CSV(w, r) }},
	} {
		var b bytes.Buffer
		if err := f.write(&b); err != nil {
			return nil, err
		}
		out = append(out, member{f.name, f.kind, f.about, b.Bytes()})
	}
	if len(r.Runs) > 0 {
		for _, f := range []struct {
			name, kind, about string
			write             func(io.Writer, Report) error
		}{{"points.csv", "text/csv", "every point of the runs with a probe", Points}, {"curve.svg", "image/svg+xml", "the curves", Curve}} {
			var b bytes.Buffer
			if err := f.write(&b, r); err != nil {
				return nil, err
			}
			out = append(out, member{f.name, f.kind, f.about, b.Bytes()})
		}
	}
	for _, p := range r.Pictures {
		ending := strings.TrimPrefix(p.Kind, "image/")
		out = append(out, member{pictureRoom + p.Hash + "." + ending, p.Kind, p.Caption, p.Content})
	}
	for _, s := range r.Submissions {
		out = append(out, member{fmt.Sprintf("receipts/version-%d.txt", s.Version), "text/plain", "receipt of handing in", []byte(s.Receipt)})
	}
	return out, nil
}

// manifest is the metadata of the crate, as JSON-LD.
func manifest(r Report, members []member) []byte {
	type ref map[string]string
	id := func(of string) ref { return ref{"@id": of} }
	parts := make([]ref, len(members))
	graph := []map[string]any{
		{"@id": crateFile, "@type": "CreativeWork", "conformsTo": id("https://w3id.org/ro/crate/1.1"), "about": id("./")},
		nil,
		{"@id": "#student", "@type": "Person", "name": r.Student},
		{"@id": "#licence", "@type": "CreativeWork", "name": "No licence is given: the work of its author"},
		{"@id": "#program", "@type": "SoftwareApplication", "name": "Exact Flask"},
	}
	for i, m := range members {
		parts[i] = id(m.name)
		graph = append(graph, map[string]any{"@id": m.name, "@type": "File", "name": path.Base(m.name), "description": m.about,
			"encodingFormat": m.kind, "contentSize": fmt.Sprint(len(m.content)), "sha256": formats.Hash(m.content)})
	}
	graph[1] = map[string]any{"@id": "./", "@type": "Dataset", "name": r.Title, "description": r.Purpose, "author": id("#student"),
		"creator": id("#program"), "datePublished": r.Made.UTC().Format(time.RFC3339), "license": id("#licence"), "hasPart": parts}
	out, _ := json.MarshalIndent(map[string]any{"@context": "https://w3id.org/ro/crate/1.1/context", "@graph": graph}, "", "  ") // texts and numbers only
	return out
}

// Read is what an archive held.
type Read struct {
	Document formats.Document
	Pictures []Picture         // by their hashes, of which each was computed again
	Receipts map[string]string // texts by their names
}

// ReadArchive reads an archive back. Nothing is unpacked that is too large, or whose name
// leads out of it; each file has to have the hash that the manifest says.
//
// Errors: a *finding.Fault, or the schema.Faults of the document.
func ReadArchive(content []byte) (Read, error) {
	out := Read{Receipts: map[string]string{}}
	if len(content) > MaxArchive {
		return out, archiveLarge.Fault("", finding.Count(MaxArchive>>20))
	}
	files, err := members(content)
	if err != nil {
		return out, err
	}
	captions, err := verify(files)
	if err != nil {
		return out, err
	}
	if out.Document, err = formats.Read(bytes.NewReader(files[documentOf])); err != nil {
		return out, err
	}
	names := make([]string, 0, len(files))
	for name := range files {
		names = append(names, name)
	}
	slices.Sort(names)
	for _, name := range names {
		switch room, ending := path.Dir(name)+"/", path.Ext(name); {
		case room == pictureRoom && (ending == ".jpeg" || ending == ".png"):
			hash := strings.TrimSuffix(path.Base(name), ending)
			if formats.Hash(files[name]) != hash {
				return out, archiveChanged.Fault("", finding.Text(name))
			}
			out.Pictures = append(out.Pictures, Picture{Hash: hash, Kind: "image/" + ending[1:], Content: files[name], Caption: captions[name]})
		case room == "receipts/":
			out.Receipts[path.Base(name)] = string(files[name])
		}
	}
	return out, nil
}

// members unpacks an archive, no more than is allowed, and nothing that leads out of it.
func members(content []byte) (map[string][]byte, error) {
	z, err := zip.NewReader(bytes.NewReader(content), int64(len(content)))
	if err != nil {
		return nil, noArchive.Fault("")
	}
	if len(z.File) > maxMembers {
		return nil, archiveLarge.Fault("", finding.Count(MaxArchive>>20))
	}
	files := map[string][]byte{}
	left := int64(MaxArchive)
	for _, f := range z.File {
		name := f.Name
		if path.IsAbs(name) || path.Clean(name) != name || strings.HasPrefix(name, "..") || strings.ContainsAny(name, "\\:") || f.Mode().Type() != 0 {
			return nil, archiveName.Fault("", finding.Text(name))
		}
		if _, twice := files[name]; twice {
			return nil, archiveName.Fault("", finding.Text(name))
		}
		r, err := f.Open()
		if err != nil {
			return nil, noArchive.Fault("")
		}
		text, err := io.ReadAll(io.LimitReader(r, min(left, maxMember)+1))
		if err = errors.Join(err, r.Close()); err != nil {
			return nil, noArchive.Fault("")
		}
		if left -= int64(len(text)); left < 0 || len(text) > maxMember {
			return nil, archiveLarge.Fault("", finding.Count(MaxArchive>>20))
		}
		files[name] = text
	}
	return files, nil
}

// verify compares every file with the manifest, and returns what it says about each.
func verify(files map[string][]byte) (map[string]string, error) {
	var crate struct {
		Graph []struct {
			ID          string `json:"@id"`
			Description string `json:"description"`
			SHA256      string `json:"sha256"`
		} `json:"@graph"`
	}
	text, there := files[crateFile]
	if !there {
		return nil, archiveMissing.Fault("", finding.Text(crateFile))
	}
	if json.Unmarshal(text, &crate) != nil {
		return nil, archiveChanged.Fault("", finding.Text(crateFile))
	}
	about := map[string]string{}
	for _, e := range crate.Graph {
		if e.SHA256 == "" {
			continue
		}
		content, there := files[e.ID]
		if !there {
			return nil, archiveMissing.Fault("", finding.Text(e.ID))
		}
		if formats.Hash(content) != e.SHA256 {
			return nil, archiveChanged.Fault("", finding.Text(e.ID))
		}
		about[e.ID] = e.Description
	}
	for name := range files {
		if _, said := about[name]; !said && name != crateFile {
			return nil, archiveName.Fault("", finding.Text(name))
		}
	}
	if _, there := files[documentOf]; !there {
		return nil, archiveMissing.Fault("", finding.Text(documentOf))
	}
	return about, nil
}
