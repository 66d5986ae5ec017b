package files

import (
	"archive/zip"
	"encoding/json"
	"fmt"
	"io"
	"strings"
	"time"
	"unicode"

	"exactflask/formats"
)

// Class writes the archives of a whole class into one, each as it comes: what was written
// is there also where the rest is stopped.
type Class struct {
	zip     *zip.Writer
	title   string
	made    time.Time
	members []member
	names   map[string]bool
	left    []string
}

// NewClass begins the archive of a practical in a class.
func NewClass(to io.Writer, title string, made time.Time) *Class {
	return &Class{zip: zip.NewWriter(to), title: title, made: made, names: map[string]bool{}}
}

// Add writes the archive of one report, as Archive made it, under the name of its student.
func (c *Class) Add(student string, archive []byte) error {
	return c.write(member{name: c.name(student), kind: "application/zip", about: student, content: archive})
}

// Leave notes that the report of a notebook could not be made.
func (c *Class) Leave(notebook string) { c.left = append(c.left, notebook) }

// name is that of a student as a file, each once.
func (c *Class) name(student string) string {
	clean := strings.Trim(strings.Map(func(r rune) rune {
		if unicode.IsLetter(r) || unicode.IsDigit(r) {
			return r
		}
		return '-'
	}, student), "-")
	for n := 1; ; n++ {
		name := fmt.Sprintf("%s.zip", clean)
		if n > 1 {
			name = fmt.Sprintf("%s-%d.zip", clean, n)
		}
		if !c.names[name] {
			c.names[name] = true
			return name
		}
	}
}

func (c *Class) write(m member) error {
	w, err := c.zip.CreateHeader(&zip.FileHeader{Name: m.name, Method: zip.Store, Modified: c.made.UTC()})
	if err != nil {
		return fmt.Errorf("writing an archive: %w", err)
	}
	if _, err := w.Write(m.content); err != nil {
		return fmt.Errorf("writing an archive: %w", err)
	}
	m.content = []byte(formats.Hash(m.content)) // all that is still needed of it
	c.members = append(c.members, m)
	return c.zip.Flush()
}

// Close writes what is in it, with the SHA-256 of each, and ends the archive.
func (c *Class) Close() error {
	list := make([]map[string]string, len(c.members))
	for i, m := range c.members {
		list[i] = map[string]string{"file": m.name, "student": m.about, "sha256": string(m.content)}
	}
	text, err := json.MarshalIndent(map[string]any{"title": c.title, "made": c.made.UTC().Format(time.RFC3339), "reports": list, "leftOut": c.left}, "", "  ")
	if err != nil {
		return fmt.Errorf("writing an archive: %w", err)
	}
	if err := c.write(member{name: "manifest.json", content: text}); err != nil {
		return err
	}
	return c.zip.Close()
}
