package web

import (
	"fmt"
	"net"
	"net/http"
	"net/netip"
	"strings"
)

// Proxies are the addresses of the proxies whose word about the caller's address
// is taken.
type Proxies []netip.Prefix

// ParseProxies reads addresses and networks, such as 127.0.0.1 or 10.0.0.0/8.
func ParseProxies(texts []string) (Proxies, error) {
	var out Proxies
	for _, text := range texts {
		if one, err := netip.ParseAddr(text); err == nil {
			out = append(out, netip.PrefixFrom(one.Unmap(), one.Unmap().BitLen()))
			continue
		}
		network, err := netip.ParsePrefix(text)
		if err != nil {
			return nil, fmt.Errorf("%q is neither an address nor a network, such as 127.0.0.1 or 10.0.0.0/8", text)
		}
		out = append(out, network)
	}
	return out, nil
}

func (p Proxies) has(address string) bool {
	a, err := netip.ParseAddr(address)
	if err != nil {
		return false
	}
	for _, n := range p {
		if n.Contains(a.Unmap()) {
			return true
		}
	}
	return false
}

// located puts the caller's own address in the place of a trusted proxy's: the
// last of X-Forwarded-For that is no proxy of ours. What anyone else claims is
// ignored.
func (p Proxies) located(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if p.has(address(r)) {
			said := strings.Split(strings.Join(r.Header.Values("X-Forwarded-For"), ","), ",")
			for i := len(said) - 1; i >= 0; i-- {
				a, err := netip.ParseAddr(strings.TrimSpace(said[i]))
				if err != nil {
					break
				}
				r.RemoteAddr = net.JoinHostPort(a.String(), "0")
				if !p.has(a.String()) {
					break
				}
			}
		}
		next.ServeHTTP(w, r)
	})
}

func address(r *http.Request) string {
	host, _, err := net.SplitHostPort(r.RemoteAddr)
	if err != nil {
		return r.RemoteAddr
	}
	return host
}

// household is the address as it is counted by: an IPv4 address however it is written, and of IPv6 the
// network of 64 bits that one household or school has.
func household(address string) string {
	a, err := netip.ParseAddr(address)
	if err != nil {
		return address
	}
	if a = a.Unmap().WithZone(""); a.Is4() {
		return a.String()
	}
	network, err := a.Prefix(64)
	if err != nil {
		return address
	}
	return network.String()
}
