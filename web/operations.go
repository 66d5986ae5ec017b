package web

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"exactflask/app/access"
)

// operation describes one that needs a session.
func operation(id, method, path, summary string, problems ...int) huma.Operation {
	out := huma.Operation{OperationID: id, Method: method, Path: path, Summary: summary, Security: signedIn,
		Errors: append([]int{401, 403, 404, 422}, problems...)}
	return out
}

// silent is an operation that answers nothing but that it was done.
func silent(o huma.Operation) huma.Operation {
	o.DefaultStatus = http.StatusNoContent
	return o
}

// done asks for nothing in return.
func done[In any](s *server, do func(context.Context, access.Person, *In) error) func(context.Context, *In) (*struct{}, error) {
	return asked(s, func(ctx context.Context, p access.Person, in *In) (*struct{}, error) { return nil, do(ctx, p, in) })
}

// costly is asked, for what takes a processor a while: one at a time for each person and few in all
// (limits.Gate). Who waits and goes away has cost nothing.
func costly[In, Out any](s *server, do func(context.Context, access.Person, *In) (*Out, error)) func(context.Context, *In) (*Out, error) {
	return asked(s, gated(s, true, do))
}

// inTurn is asked, for what is read of a notebook, which may be long: one at a time for each person.
func inTurn[In, Out any](s *server, do func(context.Context, access.Person, *In) (*Out, error)) func(context.Context, *In) (*Out, error) {
	return asked(s, gated(s, false, do))
}

func gated[In, Out any](s *server, costly bool, do func(context.Context, access.Person, *In) (*Out, error)) func(context.Context, access.Person, *In) (*Out, error) {
	return func(ctx context.Context, p access.Person, in *In) (*Out, error) {
		leave, err := s.costs.Enter(caller(ctx), p.ID, costly)
		if err != nil {
			return nil, err
		}
		defer leave()
		return do(ctx, p, in)
	}
}
