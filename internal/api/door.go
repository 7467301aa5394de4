package api

import (
	"context"
	"errors"
	"net"
	"net/http"
	"net/url"
	"slices"
	"strings"

	"github.com/danielgtaylor/huma/v2"
	"github.com/labstack/echo/v5"

	"ojime/internal/bench"
	"ojime/internal/door"
	"ojime/internal/work/bundle"
	"ojime/internal/work/feed"
)

// Place is where the program is served: under which names, and, to a network, behind which door.
type Place struct {
	// Hosts are the names and addresses it answers under, beside this machine's own.
	Hosts []string
	// Door is nil where only this machine can reach it.
	Door *door.Door
	// Secure says that it is served over TLS; RootDER is the self-made root certificate, Fingerprint what to compare.
	Secure      bool
	RootDER     []byte
	Fingerprint string
	// Beside serves further records on this machine; nil where none can be.
	Beside *Beside
}

// Beside is how further records are served on this machine, each at an address of its own.
type Beside struct {
	// Bundle serves the record of a bundle to be looked at, Demo fills and serves the demo.
	Bundle bundle.Serving
	Demo   func(ctx context.Context) (address string, err error)
}

// Types of problems that open the door's forms.
const (
	problemEnter   = "urn:ojime:enter"
	problemConfirm = "urn:ojime:confirm"
)

type sessionKey struct{}

// noteToken notes at the door that a device's token was used, or a wrong one sent, once an hour from each place: a
// device sends several times a second.
func (s *server) noteToken(from string, err error) {
	d := s.place.Door
	if d == nil || err != nil && !errors.Is(err, feed.ErrNoDevice) {
		return
	}
	e := door.Event{What: door.Used, From: from, Detail: "a device's token"}
	if err != nil {
		e = door.Event{What: door.Refused, From: from, Detail: "a wrong device token"}
	}
	d.Log.NoteHourly(e)
}

// cookieName is that of the session. Browsers hold a name that begins with __Host- to what it promises, over TLS alone.
func (s *server) cookieName() string {
	if s.place.Secure {
		return "__Host-ojime"
	}
	return "ojime"
}

func (s *server) cookie(token string, age int) http.Cookie {
	return http.Cookie{Name: s.cookieName(), Value: token, Path: "/", HttpOnly: true, Secure: s.place.Secure, SameSite: http.SameSiteStrictMode, MaxAge: age}
}

// known notes whose session a request is of.
func (s *server) known(next http.Handler) http.Handler {
	if s.place.Door == nil {
		return next
	}
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if c, err := r.Cookie(s.cookieName()); err == nil {
			if session, err := s.place.Door.Session(c.Value); err == nil {
				r = r.WithContext(context.WithValue(r.Context(), sessionKey{}, session))
			}
		}
		next.ServeHTTP(w, r)
	})
}

func sessionOf(ctx context.Context) (door.Session, bool) {
	session, in := ctx.Value(sessionKey{}).(door.Session)
	return session, in
}

// refused says why an operation is not open to whoever asks; nil where it is.
func (s *server) refused(method, path string, r *http.Request) *huma.ErrorModel {
	d := s.place.Door
	scope := scopeOf(method, path)
	if d == nil || scope == forAll || scope == forBallot || scope == forDevice {
		return nil
	}
	session, in := sessionOf(r.Context())
	from := hostOnly(r.RemoteAddr)
	switch {
	case !in:
		return &huma.ErrorModel{Type: problemEnter, Status: http.StatusUnauthorized, Title: http.StatusText(http.StatusUnauthorized), Detail: "Enter the passphrase first; a session may have ended."}
	case scope == forOwner && session.Scope != door.Owner:
		d.Log.Note(door.Event{What: door.Refused, From: from, Who: session.Name, Detail: method + " " + path})
		return &huma.ErrorModel{Status: http.StatusForbidden, Title: http.StatusText(http.StatusForbidden), Detail: "A helper may look at the bench and enter what is seen and read; this is for the owner."}
	case slices.Contains(asksAgain, method+" "+path):
		if !d.Confirmed(session) {
			return &huma.ErrorModel{Type: problemConfirm, Status: http.StatusForbidden, Title: http.StatusText(http.StatusForbidden), Detail: "Enter the passphrase again before this."}
		}
		d.Log.Note(door.Event{What: door.Used, From: from, Who: session.Name, Detail: method + " " + path})
	}
	return nil
}

func hostOnly(addr string) string {
	if host, _, err := net.SplitHostPort(addr); err == nil {
		return host
	}
	return addr
}

// inside lets only those in who may use a route that is no operation.
func (s *server) inside(next echo.HandlerFunc) echo.HandlerFunc {
	return func(c *echo.Context) error {
		if refused := s.refused(c.Request().Method, c.Request().URL.Path, c.Request()); refused != nil {
			return writeProblem(c, refused)
		}
		return next(c)
	}
}

// doorway is how the door stands for whoever asks.
type doorway struct {
	Needed      bool   `json:"needed" doc:"whether a passphrase is asked for"`
	Scope       string `json:"scope" enum:",owner,helper" doc:"as what who asks is in; empty for not"`
	Name        string `json:"name"`
	Confirmed   bool   `json:"confirmed" doc:"whether the passphrase was entered a short while ago"`
	Secure      bool   `json:"secure" doc:"whether the connection is encrypted"`
	Root        bool   `json:"root" doc:"whether there is a root certificate to install"`
	Fingerprint string `json:"fingerprint"`
}

func (s *server) standing(ctx context.Context) doorway {
	d := s.place.Door
	if d == nil {
		return doorway{Scope: door.Owner, Confirmed: true}
	}
	out := doorway{Needed: true, Secure: s.place.Secure, Root: s.place.RootDER != nil, Fingerprint: s.place.Fingerprint}
	if session, in := sessionOf(ctx); in {
		out.Scope, out.Name, out.Confirmed = session.Scope, session.Name, d.Confirmed(session)
	}
	return out
}

type entering struct {
	sender
	Body struct {
		Passphrase string `json:"passphrase" minLength:"1" maxLength:"200"`
		Name       string `json:"name" required:"false" maxLength:"60" doc:"what this device is called among the sessions"`
	}
}

type helping struct {
	sender
	Body struct {
		Code string `json:"code" minLength:"1" maxLength:"20"`
		Name string `json:"name" required:"false" maxLength:"60"`
	}
}

type confirming struct {
	sender
	Body struct {
		Passphrase string `json:"passphrase" minLength:"1" maxLength:"200"`
	}
}

type senderOnly struct{ sender }

type pairingPicture struct {
	Code string `path:"code" maxLength:"9"`
	URL  string `query:"url" required:"true"`
}

type endingSession struct {
	sender
	ID string `path:"id" maxLength:"20"`
}

type entered struct {
	SetCookie []http.Cookie `header:"Set-Cookie"`
	Body      doorway
}

// insider is one of those who are in, as it is shown: without what opens it.
type insider struct {
	ID        string `json:"id"`
	Scope     string `json:"scope" enum:"owner,helper"`
	Name      string `json:"name"`
	From      string `json:"from"`
	CreatedMS int64  `json:"created_ms"`
	SeenMS    int64  `json:"seen_ms"`
	Own       bool   `json:"own"`
}

type pairingCode struct {
	Code    string `json:"code"`
	UntilMS int64  `json:"until_ms"`
}

// doorProblem turns what the door says into a problem document.
func doorProblem(err error) error {
	status := 0
	switch {
	case errors.Is(err, door.ErrWrong):
		status = http.StatusForbidden
	case errors.Is(err, door.ErrThrottled):
		status = http.StatusTooManyRequests
	case errors.Is(err, door.ErrNoSession):
		return problem(errors.Join(err, bench.ErrNotFound))
	default:
		return problem(err)
	}
	text := err.Error()
	return &huma.ErrorModel{Status: status, Title: http.StatusText(status), Detail: strings.ToUpper(text[:1]) + text[1:] + "."}
}

var errNoDoor = errors.Join(errors.New("the program answers only on this computer; nobody has to be let in"), bench.ErrConflict)

// ajar runs a task of the door, where there is one.
func ajar[In, Out any](s *server, method, route, summary string, f func(context.Context, *door.Door, *In) (Out, error)) {
	op := huma.Operation{OperationID: strings.ToLower(method) + operationID(route), Method: method, Path: route, Summary: summary, Tags: []string{asks}, MaxBodyBytes: bodyBytes}
	huma.Register(s.api, op, func(ctx context.Context, in *In) (*reply[Out], error) {
		if s.place.Door == nil {
			return nil, problem(errNoDoor)
		}
		out, err := f(ctx, s.place.Door, in)
		if err != nil {
			return nil, doorProblem(err)
		}
		return &reply[Out]{emptyNotNull(out)}, nil
	})
}

// comeIn registers a way in, which gives a session.
func comeIn[In any](s *server, route, summary string, f func(context.Context, *door.Door, *In) (string, door.Session, error)) {
	op := huma.Operation{OperationID: "post" + operationID(route), Method: http.MethodPost, Path: route, Summary: summary, Tags: []string{asks}, MaxBodyBytes: bodyBytes}
	huma.Register(s.api, op, func(ctx context.Context, in *In) (*entered, error) {
		if s.place.Door == nil {
			return nil, problem(errNoDoor)
		}
		token, session, err := f(ctx, s.place.Door, in)
		if err != nil {
			return nil, doorProblem(err)
		}
		const month = 30 * 24 * 60 * 60
		return &entered{SetCookie: []http.Cookie{s.cookie(token, month)}, Body: s.standing(context.WithValue(ctx, sessionKey{}, session))}, nil
	})
}

func (s *server) door() {
	op := huma.Operation{OperationID: "get-door", Method: http.MethodGet, Path: "/api/v1/door", Summary: "How the door stands for whoever asks", Tags: []string{"door"}}
	huma.Register(s.api, op, func(ctx context.Context, _ *nothing) (*reply[doorway], error) {
		return &reply[doorway]{s.standing(ctx)}, nil
	})
	comeIn(s, "/api/v1/door/sessions", "Come in by the passphrase", func(ctx context.Context, d *door.Door, in *entering) (string, door.Session, error) {
		return d.Enter(ctx, in.Body.Passphrase, in.Body.Name, in.from)
	})
	comeIn(s, "/api/v1/door/helpers", "Come in as helper by a code", func(_ context.Context, d *door.Door, in *helping) (string, door.Session, error) {
		return d.EnterByCode(in.Body.Code, in.Body.Name, in.from)
	})
	ajar(s, http.MethodPost, "/api/v1/door/codes", "Draw a code that brings one phone in as helper", func(_ context.Context, d *door.Door, _ *nothing) (pairingCode, error) {
		code, until, err := d.Code()
		return pairingCode{code, until.UnixMilli()}, err
	})
	ajar(s, http.MethodPost, "/api/v1/door/confirmation", "Enter the passphrase again", func(ctx context.Context, d *door.Door, in *confirming) (doorway, error) {
		session, _ := sessionOf(ctx)
		if err := d.Confirm(session.ID, in.Body.Passphrase, in.from); err != nil {
			return doorway{}, err
		}
		out := s.standing(ctx)
		out.Confirmed = true
		return out, nil
	})
	ajar(s, http.MethodGet, "/api/v1/door/sessions", "Who is in", func(ctx context.Context, d *door.Door, _ *nothing) ([]insider, error) {
		return sessionsFor(ctx, d), nil
	})
	ajar(s, http.MethodPost, "/api/v1/door/sessions/{id}/ending", "End a session", func(ctx context.Context, d *door.Door, in *endingSession) ([]insider, error) {
		err := d.End(in.ID, in.from)
		return sessionsFor(ctx, d), err
	})
	ajar(s, http.MethodPost, "/api/v1/door/ending", "End every session, everywhere", func(_ context.Context, d *door.Door, in *senderOnly) ([]insider, error) {
		return []insider{}, d.EndAll(in.from)
	})
	ajar(s, http.MethodPost, "/api/v1/door/leaving", "End this session", func(ctx context.Context, d *door.Door, in *senderOnly) ([]insider, error) {
		own, _ := sessionOf(ctx)
		return []insider{}, d.End(own.ID, in.from)
	})
	ajar(s, http.MethodGet, "/api/v1/door/log", "Who came, and what was refused, the last first", func(_ context.Context, d *door.Door, _ *nothing) ([]door.Event, error) {
		return d.Log.Last()
	})
	serveFile(s, "/api/v1/door/codes/{code}/qr.png", "The code that opens the way in on a phone, with a pairing code filled in", func(_ context.Context, in *pairingPicture) (string, string, []byte, error) {
		data, err := qrCode(in.URL, "/door?code="+url.QueryEscape(in.Code))
		return "pairing.png", "image/png", data, err
	})
	serveFile(s, "/api/v1/door/root.crt", "The root certificate to install", func(context.Context, *nothing) (string, string, []byte, error) {
		if s.place.RootDER == nil {
			return "", "", nil, errors.Join(errors.New("there is no root certificate of this program's own"), bench.ErrNotFound)
		}
		return "ojime-root.crt", "application/x-x509-ca-cert", s.place.RootDER, nil
	})
}

func sessionsFor(ctx context.Context, d *door.Door) []insider {
	own, _ := sessionOf(ctx)
	out := []insider{}
	for _, s := range d.Sessions() {
		out = append(out, insider{s.ID, s.Scope, s.Name, s.From, s.CreatedMS, s.SeenMS, s.ID == own.ID})
	}
	return out
}
