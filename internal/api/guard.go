package api

import (
	"errors"
	"fmt"
	"net"
	"net/http"
	"runtime/debug"
	"slices"
	"strings"
)

// policy lets nothing load from elsewhere and no script run inline. Styles may
// be set inline: charts and the headless parts position themselves so.
const policy = "default-src 'self'; script-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data: blob:; " +
	"font-src 'self'; connect-src 'self'; object-src 'none'; base-uri 'none'; frame-ancestors 'none'; form-action 'self'"

// headers go with every answer: nothing of the record may be framed, opened into,
// read from or used by another site.
var headers = map[string]string{
	"Content-Security-Policy":      policy,
	"X-Content-Type-Options":       "nosniff",
	"Referrer-Policy":              "same-origin",
	"Cross-Origin-Opener-Policy":   "same-origin",
	"Cross-Origin-Resource-Policy": "same-origin",
	"Permissions-Policy":           "camera=(self), microphone=(), geolocation=(), usb=(), serial=(), payment=()",
}

// guard sets the security headers, answers only under this machine's own names
// and those of its place, refuses writes from other sites, and turns a
// panic into a problem document.
func guard(next http.Handler, hosts []string) http.Handler {
	origin := http.NewCrossOriginProtection()
	origin.SetDenyHandler(http.HandlerFunc(func(w http.ResponseWriter, _ *http.Request) {
		refuse(w, http.StatusForbidden, "Writes from another site are refused.")
	}))
	inner := origin.Handler(recovered(next))
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		for name, value := range headers {
			w.Header().Set(name, value)
		}
		if strings.HasPrefix(r.URL.Path, "/api/") {
			w.Header().Set("Cache-Control", "no-store")
		}
		if !ownName(r.Host, hosts) {
			refuse(w, http.StatusMisdirectedRequest, "This program answers only under the name of this machine, such as 127.0.0.1 or localhost.")
			return
		}
		inner.ServeHTTP(w, r)
	})
}

// ownName reports whether a request was sent to this program by a name that is its
// own. A page of another site can have its name point here, and would otherwise
// read the record as if it were this program's.
func ownName(asked string, hosts []string) bool {
	name := asked
	if only, _, err := net.SplitHostPort(asked); err == nil {
		name = only
	}
	name = strings.Trim(name, "[]")
	if ip := net.ParseIP(name); ip != nil && ip.IsLoopback() {
		return true
	}
	return strings.EqualFold(name, "localhost") || slices.ContainsFunc(hosts, func(host string) bool { return strings.EqualFold(name, strings.Trim(host, "[]")) })
}

func refuse(w http.ResponseWriter, status int, why string) {
	w.Header().Set("Content-Type", "application/problem+json")
	w.WriteHeader(status)
	_, _ = fmt.Fprintf(w, `{"status":%d,"title":%q,"detail":%q}`, status, http.StatusText(status), why) // the connection may be gone
}

// recovered answers a panic with a problem document that shows an id.
func recovered(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		defer func() {
			switch p := recover(); {
			case p == nil:
			case p == http.ErrAbortHandler:
				panic(p)
			default:
				made := unknown(errors.New(fmt.Sprint(r.Method, " ", r.URL.Path, ": panic: ", p, "\n", string(debug.Stack()))))
				refuse(w, made.Status, made.Detail)
			}
		}()
		next.ServeHTTP(w, r)
	})
}
