package web

import (
	"context"
	"crypto/rand"
	"encoding/json"
	"errors"
	"net/http"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"exactflask/app/access"
	"exactflask/app/bench"
	"exactflask/app/people"
	"exactflask/core/record/practical"
	"exactflask/core/values/finding"
	"exactflask/schema"
	"exactflask/store"
	"exactflask/wording"
)

// What a caller is told, in their own words.
var (
	notFoundHere    = finding.Declare("web.not-found")
	notForRole      = finding.Declare("web.forbidden")
	wrongSignIn     = finding.Declare("web.sign-in")
	tooManyAttempts = finding.Declare("web.too-many-attempts", "count")
	tooManyRequests = finding.Declare("web.too-many-requests")
	notSignedIn     = finding.Declare("web.not-signed-in")
	changeFirst     = finding.Declare("web.change-password-first")
	demoPassword    = finding.Declare("web.demo-password")
	noRoute         = finding.Declare("web.no-route", "method", "path")
	noMethod        = finding.Declare("web.no-method", "method")
	noSession       = finding.Declare("web.no-session")
	wentWrong       = finding.Declare("web.went-wrong", "reference")
	keptUnshown     = finding.Declare("web.kept-unshown", "reference")
	damaged         = finding.Declare("web.damaged", "reference")
	readOnly        = finding.Declare("web.read-only", "reference")
	otherPerson     = finding.Declare("web.other-person")
	callerGone      = finding.Declare("web.caller-gone")
	diskFull        = finding.Declare("web.disk-full")
	unreadable      = finding.Declare("web.unreadable")
	isEmpty         = finding.Declare("web.empty")
	beDecimal       = finding.Declare("web.be-decimal", "given")
	notTaken        = finding.Declare("web.not-taken")
)

// typeOf names a problem of this program's own: by it a page tells that the program
// itself says so, and not something on the way to it.
func typeOf(code string) string { return "urn:exactflask:" + code }

// said is an error of the API with its sentence.
func said(status int, style practical.Style, m finding.Message, details ...*huma.ErrorDetail) error {
	return &huma.ErrorModel{Type: typeOf(m.Code), Title: http.StatusText(status), Status: status,
		Detail: wording.For(style).Say(m), Errors: details}
}

// brokeOff is what the library says where the caller went away in the middle of what was sent: no fault of ours.
const brokeOff = "cannot read request body"

// What the library says of a request that does not fit its form is said as our
// own sentences; where it stands goes with it.
func init() {
	huma.NewError = func(status int, message string, errs ...error) huma.StatusError {
		words := wording.For()
		if message == brokeOff {
			m := callerGone.Message()
			return &huma.ErrorModel{Type: typeOf(m.Code), Title: "Client Closed Request", Status: 499, Detail: words.Say(m)}
		}
		out := &huma.ErrorModel{Type: typeOf(notTaken.Message().Code), Title: http.StatusText(status), Status: status, Detail: message}
		for _, err := range errs {
			if err == nil {
				continue
			}
			f := schema.FaultOf(err)
			switch { // what a person typed into a field has no quotes and counts no characters
			case f.Code == "schema.be.decimal":
				f.Message = beDecimal.Message(f.Values["given"])
			case f.Code == "schema.length-least" && f.Values["wanted"].Text == "1":
				f.Message = isEmpty.Message()
			}
			out.Errors = append(out.Errors, &huma.ErrorDetail{Location: f.Path, Message: words.Say(f.Message)})
		}
		if len(out.Errors) > 0 && status == http.StatusUnprocessableEntity {
			first := out.Errors[0]
			out.Detail = words.Say(notTaken.Message()) + " " + where(words, first.Location) + first.Message + "."
		}
		return out
	}
}

// fields are those that a person fills in, by their names in JSON.
var fields = finding.Family("field.", []string{"approximate", "capacity", "concentration", "density", "division", "emptied", "equation", "full", "hold", "mass", "molarMass", "name", "new", "pKa", "password", "percent", "potential", "reason", "text", "title", "tolerance", "username", "value", "volume"})

// where is the name of a field in words, where it has one; where it stands goes with
// the problem in any case.
func where(words wording.Writer, path string) string {
	if code, ok := fields[path[strings.LastIndexAny(path, ".]")+1:]]; ok {
		return words.Say(code.Message()) + ": "
	}
	return ""
}

// problem writes an RFC 9457 problem document.
func problem(w http.ResponseWriter, status int, m finding.Message) {
	w.Header().Set("Content-Type", "application/problem+json")
	w.WriteHeader(status)
	_ = json.NewEncoder(w).Encode(huma.ErrorModel{Type: typeOf(m.Code), Title: http.StatusText(status), Status: status,
		Detail: wording.For().Say(m)})
}

// problemOf turns an error into what the caller is told. Unknown errors are
// logged and not shown.
func (s *server) problemOf(style practical.Style, err error) error {
	var fault *finding.Fault
	var faults schema.Faults
	switch err = store.Why(err); {
	case err == nil:
		return nil
	case errors.Is(err, people.ErrSignIn):
		return said(http.StatusUnauthorized, style, wrongSignIn.Message())
	case errors.Is(err, access.ErrNotFound):
		return said(http.StatusNotFound, style, notFoundHere.Message())
	case errors.Is(err, access.ErrForbidden):
		return said(http.StatusForbidden, style, notForRole.Message())
	case errors.Is(err, bench.ErrKept):
		return said(http.StatusInternalServerError, style, keptUnshown.Message(finding.Text(s.failed(err))))
	case errors.Is(err, store.ErrFull):
		s.options.Log.Error("the disk is full: nothing can be written until there is room")
		return said(http.StatusInsufficientStorage, style, diskFull.Message())
	case errors.Is(err, store.ErrUnreadable):
		s.options.Log.Error("stored document", "err", err)
		return said(http.StatusInternalServerError, style, unreadable.Message())
	case errors.Is(err, store.ErrDamaged):
		return said(http.StatusInternalServerError, style, damaged.Message(finding.Text(s.failed(err))))
	case errors.Is(err, store.ErrReadOnly):
		return said(http.StatusInternalServerError, style, readOnly.Message(finding.Text(s.failed(err))))
	case errors.As(err, &faults): // each with its place; the first stands for all
		words := wording.For(style)
		details := make([]*huma.ErrorDetail, len(faults))
		for i, f := range faults {
			details[i] = &huma.ErrorDetail{Location: "body." + f.Path, Message: words.Say(f.Message)}
		}
		return said(http.StatusUnprocessableEntity, style, faults[0].Message, details...)
	case errors.As(err, &fault):
		status := http.StatusUnprocessableEntity
		if other, ok := statuses[fault.Code]; ok {
			status = other
		}
		sentence := wording.For(style).Say(fault.Message)
		return said(status, style, fault.Message, &huma.ErrorDetail{Location: "body." + fault.Path, Message: sentence})
	case errors.Is(err, context.Canceled):
		return said(499, style, callerGone.Message())
	default:
		return said(http.StatusInternalServerError, style, wentWrong.Message(finding.Text(s.failed(err))))
	}
}

// failed writes an error into the log, and returns the reference by which it is
// found there.
func (s *server) failed(err error) string {
	reference := rand.Text()[:8]
	s.options.Log.Error("failed", "reference", reference, "err", err)
	return reference
}

// statuses are those of the faults that are not of what was sent: another's
// writing caused them, or a rule of the class.
var statuses = map[string]int{"entry.id-taken": http.StatusConflict, "app.other-revision": http.StatusConflict,
	"app.archived-notebook": http.StatusForbidden, "app.left-class": http.StatusForbidden, "app.calculators-closed": http.StatusForbidden, "app.no-more-tries": http.StatusForbidden,
	"app.too-much": http.StatusTooManyRequests, "app.probe-fast": http.StatusTooManyRequests, "app.probe-token": http.StatusUnauthorized, "web.too-many-streams": http.StatusTooManyRequests}
