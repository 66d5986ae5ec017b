package web

import (
	"context"
	"encoding/json"
	"errors"
	"net/http"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"exactflask/app"
	"exactflask/core/finding"
	"exactflask/core/practical"
	"exactflask/schema"
	"exactflask/store"
	"exactflask/wording"
)

// What a caller is told, in their own words.
var (
	notFoundHere    = finding.Declare("web.not-found")
	notForRole      = finding.Declare("web.forbidden")
	wrongSignIn     = finding.Declare("web.sign-in")
	tooManyAttempts = finding.Declare("web.too-many-attempts")
	tooManyRequests = finding.Declare("web.too-many-requests")
	notSignedIn     = finding.Declare("web.not-signed-in")
	accountGone     = finding.Declare("web.account-gone")
	noRoute         = finding.Declare("web.no-route", "method", "path")
	noMethod        = finding.Declare("web.no-method", "method")
	noSession       = finding.Declare("web.no-session")
	wentWrong       = finding.Declare("web.went-wrong")
	callerGone      = finding.Declare("web.caller-gone")
	diskFull        = finding.Declare("web.disk-full")
	unreadable      = finding.Declare("web.unreadable")
	notTaken        = finding.Declare("web.not-taken")
)

// said is an error of the API with its sentence.
func said(status int, style practical.Style, m finding.Message, details ...*huma.ErrorDetail) error {
	return &huma.ErrorModel{Title: http.StatusText(status), Status: status, Detail: wording.For(style).Say(m), Errors: details}
}

// What the library says of a request that does not fit its form is said as our
// own sentences; where it stands goes with it.
func init() {
	huma.NewError = func(status int, message string, errs ...error) huma.StatusError {
		words := wording.For()
		out := &huma.ErrorModel{Title: http.StatusText(status), Status: status, Detail: message}
		for _, err := range errs {
			if err == nil {
				continue
			}
			f := schema.FaultOf(err)
			out.Errors = append(out.Errors, &huma.ErrorDetail{Location: f.Path, Message: words.Say(f.Message)})
		}
		if len(out.Errors) > 0 && status == http.StatusUnprocessableEntity {
			first := out.Errors[0]
			out.Detail = words.Say(notTaken.Message()) + " " + strings.TrimPrefix(first.Location, "body.") + ": " + first.Message
		}
		return out
	}
}

// problem writes an RFC 9457 problem document.
func problem(w http.ResponseWriter, status int, m finding.Message) {
	w.Header().Set("Content-Type", "application/problem+json")
	w.WriteHeader(status)
	_ = json.NewEncoder(w).Encode(huma.ErrorModel{Title: http.StatusText(status), Status: status, Detail: wording.For().Say(m)})
}

// problemOf turns an error into what the caller is told. Unknown errors are
// logged and not shown.
func (s *server) problemOf(style practical.Style, err error) error {
	var fault *finding.Fault
	switch {
	case err == nil:
		return nil
	case errors.Is(err, app.ErrSignIn):
		return said(http.StatusUnauthorized, style, wrongSignIn.Message())
	case errors.Is(err, app.ErrNotFound):
		return said(http.StatusNotFound, style, notFoundHere.Message())
	case errors.Is(err, app.ErrForbidden):
		return said(http.StatusForbidden, style, notForRole.Message())
	case errors.As(err, &fault):
		status := http.StatusUnprocessableEntity
		if conflicts[fault.Code] {
			status = http.StatusConflict
		}
		sentence := wording.For(style).Say(fault.Message)
		return said(status, style, fault.Message, &huma.ErrorDetail{Location: "body." + fault.Path, Message: sentence})
	case errors.Is(err, store.ErrFull):
		s.options.Log.Error("the disk is full: nothing can be written until there is room")
		return said(http.StatusInsufficientStorage, style, diskFull.Message())
	case errors.Is(err, store.ErrUnreadable):
		s.options.Log.Error("stored document", "err", err)
		return said(http.StatusInternalServerError, style, unreadable.Message())
	case errors.Is(err, context.Canceled):
		return said(499, style, callerGone.Message())
	default:
		s.options.Log.Error("failed", "err", err)
		return said(http.StatusInternalServerError, style, wentWrong.Message())
	}
}

// conflicts are the faults that another's writing caused.
var conflicts = map[string]bool{"app.id-taken": true, "app.other-revision": true}
