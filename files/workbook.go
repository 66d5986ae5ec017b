package files

import (
	"archive/zip"
	"bytes"
	"io"
	"regexp"
	"strings"

	"github.com/xuri/excelize/v2"
)

// writeBook writes a workbook so that readers which do not calculate show its figures, and strict
// ones open it: the library marks the result of each formula as a text, and puts the properties of
// the file into a namespace without a prefix.
func writeBook(to io.Writer, f *excelize.File) error {
	made, err := f.WriteToBuffer()
	if err != nil {
		return err
	}
	parts, err := zip.NewReader(bytes.NewReader(made.Bytes()), int64(made.Len()))
	if err != nil {
		return err
	}
	out := zip.NewWriter(to)
	for _, part := range parts.File {
		if err := copyPart(out, part); err != nil {
			return err
		}
	}
	return out.Close()
}

func copyPart(out *zip.Writer, part *zip.File) error {
	from, err := part.Open()
	if err != nil {
		return err
	}
	defer from.Close()
	text, err := io.ReadAll(from)
	if err != nil {
		return err
	}
	switch {
	case strings.HasPrefix(part.Name, "xl/worksheets/"):
		text = results.ReplaceAll(text, []byte("$1$2"))
	case part.Name == "docProps/core.xml":
		text = unprefixed.ReplaceAll(text, []byte("<${1}cp:$2"))
		text = bytes.Replace(text, []byte("xmlns="), []byte("xmlns:cp="), 1)
	}
	w, err := out.CreateHeader(&zip.FileHeader{Name: part.Name, Method: zip.Deflate})
	if err != nil {
		return err
	}
	_, err = w.Write(text)
	return err
}

var (
	// results are the figures of formulas, which are marked as texts.
	results = regexp.MustCompile(`(<c [^>]*?) t="str"(><f>[^<]*</f><v>-?[0-9.]+(?:[eE][-+]?[0-9]+)?</v>)`)
	// unprefixed are the tags of the core properties without a prefix.
	unprefixed = regexp.MustCompile(`<(/?)(coreProperties|category|contentStatus|keywords|lastModifiedBy|revision|version)\b`)
)
