package bench

import (
	"bytes"
	"context"
	"fmt"
	"image"
	"image/jpeg"
	"image/png"

	"exactflask/app/access"
	"exactflask/core/record/journal"
	"exactflask/core/values/finding"
	"exactflask/formats"
	"exactflask/store"
)

// What pictures a report takes.
const (
	MaxPicture   = 1 << 20 // bytes, of what is sent and of what is kept
	mostPictures = 6       // in a report
	mostKept     = 24      // with those that were taken out of it
	mostPixels   = 16_000_000
	jpegQuality  = 85
)

var (
	noPicture       = finding.Declare("app.no-picture")
	pictureLarge    = finding.Declare("app.picture-large", "most")
	tooManyPictures = finding.Declare("app.too-many-pictures", "most")
)

// NewPicture is a picture that was kept, to be named by an entry.
type NewPicture struct {
	Hash   string `json:"hash"`
	Width  int    `json:"width"`
	Height int    `json:"height"`
}

// AddPicture keeps a picture for one's own report. It is decoded and encoded anew: what
// was hidden in the file, such as where it was taken, is not kept.
func (a *Bench) AddPicture(ctx context.Context, p access.Person, id string, content []byte) (NewPicture, error) {
	o, err := a.Open(ctx, p, id)
	if err != nil {
		return NewPicture{}, err
	}
	if !o.write {
		return NewPicture{}, fmt.Errorf("a picture for another's report: %w", o.refused)
	}
	if _, in := o.HandedIn(); in {
		return NewPicture{}, journal.AfterHandIn.Fault("")
	}
	if len(journal.Fold(o.Entries).Pictures) >= mostPictures {
		return NewPicture{}, tooManyPictures.Fault("", finding.Count(mostPictures))
	}
	kept, err := reencode(content)
	if err != nil {
		return NewPicture{}, err
	}
	if err := a.Afford(p.ID, 1, len(kept.Content)); err != nil {
		return NewPicture{}, err
	}
	err = a.Store.Write(ctx, func(ctx context.Context, q store.Queries) error {
		n, err := q.CountPictures(ctx, id)
		if err != nil {
			return err
		}
		if n >= mostKept {
			return tooManyPictures.Fault("", finding.Count(mostKept))
		}
		return q.AddPicture(ctx, id, p.ID, kept, a.Now())
	})
	return NewPicture{kept.Hash, kept.Width, kept.Height}, err
}

// reencode reads a JPEG or PNG and writes it anew.
func reencode(content []byte) (store.Picture, error) {
	if len(content) > MaxPicture {
		return store.Picture{}, pictureLarge.Fault("", finding.Count(MaxPicture>>20))
	}
	size, kind, err := image.DecodeConfig(bytes.NewReader(content))
	if err != nil || kind != "jpeg" && kind != "png" {
		return store.Picture{}, noPicture.Fault("")
	}
	if size.Width < 1 || size.Height < 1 || size.Width > 10_000 || size.Height > 10_000 || size.Width*size.Height > mostPixels {
		return store.Picture{}, pictureLarge.Fault("", finding.Count(MaxPicture>>20))
	}
	picture, _, err := image.Decode(bytes.NewReader(content))
	if err != nil {
		return store.Picture{}, noPicture.Fault("")
	}
	var out bytes.Buffer
	if kind == "png" {
		if err := png.Encode(&out, picture); err != nil {
			return store.Picture{}, fmt.Errorf("writing a picture: %w", err)
		}
	}
	if kind == "jpeg" || out.Len() > MaxPicture {
		out.Reset()
		kind = "jpeg"
		if err := jpeg.Encode(&out, picture, &jpeg.Options{Quality: jpegQuality}); err != nil {
			return store.Picture{}, fmt.Errorf("writing a picture: %w", err)
		}
	}
	if out.Len() > MaxPicture {
		return store.Picture{}, pictureLarge.Fault("", finding.Count(MaxPicture>>20))
	}
	return store.Picture{Hash: formats.Hash(out.Bytes()), Kind: "image/" + kind, Width: size.Width, Height: size.Height, Content: out.Bytes()}, nil
}

// Picture is one of a notebook that the person may read.
func (a *Bench) Picture(ctx context.Context, p access.Person, id, hash string) (store.Picture, error) {
	if _, err := a.Open(ctx, p, id); err != nil {
		return store.Picture{}, err
	}
	out, err := a.Store.Read().Picture(ctx, id, hash)
	return out, access.NotFound(err)
}
