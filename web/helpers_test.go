package web_test

import (
	"io"
	"net/url"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/require"
)

func open(t testing.TB, example string) io.Reader {
	f, err := os.Open(filepath.Join("..", "docs", "examples", example))
	require.NoError(t, err)
	t.Cleanup(func() { _ = f.Close() })
	return f
}

func must(t testing.TB, address string) *url.URL {
	u, err := url.Parse(address)
	require.NoError(t, err)
	return u
}
