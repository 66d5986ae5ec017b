package web

import (
	"context"
	"fmt"
	"net/http"
	"strconv"
	"time"

	"github.com/go-chi/chi/v5"
	"github.com/go-chi/chi/v5/middleware"
	"github.com/prometheus/client_golang/prometheus"
	"github.com/prometheus/client_golang/prometheus/collectors"
	"github.com/prometheus/client_golang/prometheus/promhttp"

	"exactflask/app"
	"exactflask/core/values/finding"
)

var notReady = finding.Declare("web.not-ready")

// health adds /healthz, which says that the program runs, and /readyz, which says
// that it can read and write its data file.
func (s *server) health(r chi.Router) {
	r.Get("/healthz", func(w http.ResponseWriter, _ *http.Request) { _, _ = w.Write([]byte("ok\n")) })
	r.Get("/readyz", func(w http.ResponseWriter, r *http.Request) {
		ctx, cancel := context.WithTimeout(r.Context(), 2*time.Second)
		defer cancel()
		if err := s.app.Ready(ctx); err != nil {
			s.options.Log.Error("not ready", "err", err)
			problem(w, http.StatusServiceUnavailable, notReady.Message())
			return
		}
		if by, err := s.app.Behind(ctx); err == nil && by > 0 { // nothing is lost by it
			s.options.Log.Warn("the clock is behind the record: look at the machine's time", "by", by.String())
			_, _ = fmt.Fprintf(w, "ready; the clock is %s behind the record: look at the machine's time\n", by.Round(time.Second))
			return
		}
		_, _ = w.Write([]byte("ready\n"))
	})
}

// Metrics are the figures of a running server, for Prometheus. They hold routes
// and numbers, and nothing of anyone.
type Metrics struct {
	registry *prometheus.Registry
	requests *prometheus.HistogramVec
	signIns  *prometheus.CounterVec
	streams  prometheus.Gauge
}

// NewMetrics makes the figures of a server over this application.
func NewMetrics(a *app.App) *Metrics {
	m := &Metrics{registry: prometheus.NewRegistry(),
		requests: prometheus.NewHistogramVec(prometheus.HistogramOpts{Name: "exactflask_request_seconds",
			Help: "Time of requests, by route; streams left out.", Buckets: prometheus.ExponentialBuckets(0.0005, 2, 14)},
			[]string{"method", "route", "status"}),
		signIns: prometheus.NewCounterVec(prometheus.CounterOpts{Name: "exactflask_sign_ins_total",
			Help: "Attempts to sign in, by how they ended."}, []string{"outcome"}),
		streams: prometheus.NewGauge(prometheus.GaugeOpts{Name: "exactflask_streams", Help: "Event streams that are open."})}
	count := func(name, help string, of func() uint64) prometheus.Collector {
		return prometheus.NewCounterFunc(prometheus.CounterOpts{Name: name, Help: help}, func() float64 { return float64(of()) })
	}
	m.registry.MustRegister(m.requests, m.signIns, m.streams, collectors.NewGoCollector(),
		collectors.NewProcessCollector(collectors.ProcessCollectorOpts{}),
		count("exactflask_commits_total", "Transactions committed.", func() uint64 { n, _ := a.Commits(); return n }),
		count("exactflask_writes_total", "Writes that they held.", func() uint64 { _, n := a.Commits(); return n }))
	return m
}

// Handler serves the figures. Nobody is asked who they are: it belongs on an
// address that only the operator reaches.
func (m *Metrics) Handler() http.Handler {
	return promhttp.HandlerFor(m.registry, promhttp.HandlerOpts{})
}

// timed measures requests by their routes.
func (m *Metrics) timed(next http.Handler) http.Handler {
	if m == nil {
		return next
	}
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		begun := time.Now()
		ww := middleware.NewWrapResponseWriter(w, r.ProtoMajor)
		next.ServeHTTP(ww, r)
		if ww.Header().Get("Content-Type") == "text/event-stream" {
			return
		}
		m.requests.WithLabelValues(r.Method, routeOf(r), strconv.Itoa(ww.Status())).Observe(time.Since(begun).Seconds())
	})
}

func (m *Metrics) signedIn(outcome string) {
	if m != nil {
		m.signIns.WithLabelValues(outcome).Inc()
	}
}

// streaming counts a stream until the function that it returns is called.
func (m *Metrics) streaming() (end func()) {
	if m == nil {
		return func() {}
	}
	m.streams.Inc()
	return m.streams.Dec
}
