package door

import (
	"crypto/tls"
	"crypto/x509"
	"errors"
	"net/http"
	"net/http/httptest"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"
)

const phrase = "four words on a door"

// opened is a door with a passphrase and a clock of its own.
func opened(t *testing.T) (d *Door, clock *time.Time) {
	t.Helper()
	at := time.Date(2026, 11, 1, 9, 0, 0, 0, time.UTC)
	clock = &at
	d, err := Open(t.TempDir(), func() time.Time { return *clock })
	if err != nil {
		t.Fatal(err)
	}
	if d.Set() {
		t.Fatal("a new door has a passphrase")
	}
	d.memory = 1 << 10 // a hash of the usual size takes a tenth of a second
	if err := d.SetPassphrase(phrase); err != nil {
		t.Fatal(err)
	}
	return d, clock
}

func TestAPassphraseIsLongEnough(t *testing.T) {
	for text, right := range map[string]bool{phrase: true, "elf chars": false, "aaaaaaaaaaaaaaaa": false, strings.Repeat("abcdef", 40): false, "abcd\xffefghijklmn": false, "ähnlich lang wie": true} {
		if err := CheckPassphrase(text); (err == nil) != right {
			t.Errorf("%q: %v", text, err)
		}
	}
}

func TestWhoKnowsThePassphraseComesInAndStaysOverARestart(t *testing.T) {
	d, clock := opened(t)
	d.memory = memoryKiB
	if err := d.SetPassphrase(phrase); err != nil {
		t.Fatal(err)
	}
	token, s, err := d.Enter(t.Context(), phrase, " Marn's phone ", "10.0.0.2")
	if err != nil || s.Scope != Owner || s.Name != "Marn's phone" || len(token) != 64 {
		t.Fatalf("%+v, %v", s, err)
	}
	kept, err := os.ReadFile(filepath.Join(d.dir, stateFile))
	if err != nil || strings.Contains(string(kept), token) || strings.Contains(string(kept), phrase) || !strings.Contains(string(kept), "$argon2id$v=19$m=65536,t=3,p=4$") {
		t.Errorf("%s, %v", kept, err)
	}
	again, err := Open(filepath.Dir(d.dir), d.now)
	if err != nil {
		t.Fatal(err)
	}
	if is, err := again.Session(token); err != nil || is.ID != s.ID {
		t.Errorf("%+v, %v", is, err)
	}
	*clock = clock.Add(11 * time.Hour)
	if _, err := again.Session(token); err != nil {
		t.Errorf("after 11 hours: %v", err)
	}
	*clock = clock.Add(13 * time.Hour)
	if _, err := again.Session(token); !errors.Is(err, ErrNoSession) || len(again.Sessions()) != 0 {
		t.Errorf("13 hours unused: %v", err)
	}
	for _, token := range []string{"", "x", strings.Repeat("0", 64)} {
		if _, err := d.Session(token); !errors.Is(err, ErrNoSession) {
			t.Errorf("%q: %v", token, err)
		}
	}
}

func TestASessionEndsHoweverOftenItIsUsed(t *testing.T) {
	d, clock := opened(t)
	token, _, err := d.Enter(t.Context(), phrase, "", "here")
	if err != nil {
		t.Fatal(err)
	}
	for range 59 {
		*clock = clock.Add(12 * time.Hour)
		if _, err := d.Session(token); err != nil {
			t.Fatal(err)
		}
	}
	*clock = clock.Add(12*time.Hour + time.Minute)
	if _, err := d.Session(token); !errors.Is(err, ErrNoSession) {
		t.Errorf("after thirty days: %v", err)
	}
}

func TestEndingAndANewPassphrase(t *testing.T) {
	d, _ := opened(t)
	one, s, _ := d.Enter(t.Context(), phrase, "", "here")
	two, _, err := d.Enter(t.Context(), phrase, "", "here")
	if err != nil {
		t.Fatal(err)
	}
	if err := d.End(s.ID, "here"); err != nil {
		t.Fatal(err)
	}
	if err := d.End(s.ID, "here"); !errors.Is(err, ErrNoSession) {
		t.Errorf("ended twice: %v", err)
	}
	if _, err := d.Session(one); err == nil {
		t.Error("it goes on")
	}
	if _, err := d.Session(two); err != nil {
		t.Errorf("the other one too: %v", err)
	}
	if err := d.SetPassphrase("another four words here"); err != nil {
		t.Fatal(err)
	}
	if _, err := d.Session(two); err == nil {
		t.Error("a session outlives its passphrase")
	}
	if _, _, err := d.Enter(t.Context(), phrase, "", "here"); !errors.Is(err, ErrWrong) {
		t.Errorf("the old passphrase: %v", err)
	}
}

func TestWrongPassphrasesAreThrottledAndNoSecretIsLogged(t *testing.T) {
	d, clock := opened(t)
	for i := range mostFromOne {
		if _, _, err := d.Enter(t.Context(), "wrong words on it", "", "10.0.0.9"); !errors.Is(err, ErrWrong) {
			t.Fatalf("%d: %v", i, err)
		}
	}
	if _, _, err := d.Enter(t.Context(), phrase, "", "10.0.0.9"); !errors.Is(err, ErrThrottled) {
		t.Errorf("the right one after five wrong ones: %v", err)
	}
	if _, _, err := d.EnterByCode("0000-0000", "", "10.0.0.9"); !errors.Is(err, ErrThrottled) {
		t.Errorf("a code: %v", err)
	}
	if _, _, err := d.Enter(t.Context(), phrase, "", "10.0.0.8"); err != nil {
		t.Errorf("from elsewhere: %v", err)
	}
	*clock = clock.Add(within)
	if _, _, err := d.Enter(t.Context(), phrase, "Marn", "10.0.0.9"); err != nil {
		t.Errorf("a minute later: %v", err)
	}
	for i := range mostFromAll {
		if err := d.Confirm("x", "wrong words on it", strings.Repeat("9", i+1)); !errors.Is(err, ErrWrong) {
			t.Fatalf("%d: %v", i, err)
		}
	}
	if _, _, err := d.Enter(t.Context(), phrase, "", "10.0.0.7"); !errors.Is(err, ErrThrottled) {
		t.Errorf("after thirty from all places: %v", err)
	}
	events, err := d.Log.Last()
	if err != nil || len(events) != mostFromOne+2+2+mostFromAll+1 || events[0].What != Throttled || events[len(events)-1].Detail != "wrong passphrase" {
		t.Errorf("%d events, %v: %+v", len(events), err, events[:2])
	}
	log, _ := os.ReadFile(filepath.Join(d.dir, "access.log"))
	if strings.Contains(string(log), "words") {
		t.Errorf("the log holds what was typed: %s", log)
	}
}

func TestWhatHappensAllTheTimeIsNotedOnceAnHour(t *testing.T) {
	d, clock := opened(t)
	for range 100 {
		d.Log.NoteHourly(Event{What: Used, From: "10.0.0.5", Detail: "a device's token"})
	}
	d.Log.NoteHourly(Event{What: Used, From: "10.0.0.6", Detail: "a device's token"})
	*clock = clock.Add(time.Hour)
	d.Log.NoteHourly(Event{What: Used, From: "10.0.0.5", Detail: "a device's token"})
	if events, err := d.Log.Last(); err != nil || len(events) != 3 {
		t.Errorf("%d events, %v", len(events), err)
	}
}

func TestAPhoneComesInByACodeOnce(t *testing.T) {
	d, clock := opened(t)
	code, _, err := d.Code()
	if err != nil || len(code) != 9 || code[4] != '-' {
		t.Fatal(code, err)
	}
	token, s, err := d.EnterByCode(strings.ReplaceAll(code, "-", " "), "phone", "10.0.0.3")
	if err != nil || s.Scope != Helper || d.Confirmed(s) {
		t.Fatalf("%+v, %v", s, err)
	}
	if _, _, err := d.EnterByCode(code, "", "10.0.0.3"); !errors.Is(err, ErrWrong) {
		t.Errorf("twice: %v", err)
	}
	*clock = clock.Add(6 * 24 * time.Hour)
	if _, err := d.Session(token); err != nil {
		t.Errorf("a helper after six days: %v", err)
	}
	late, _, _ := d.Code()
	*clock = clock.Add(codeLasts)
	if _, _, err := d.EnterByCode(late, "", "10.0.0.3"); !errors.Is(err, ErrWrong) {
		t.Errorf("late: %v", err)
	}
}

func TestThePassphraseIsAskedForAgain(t *testing.T) {
	d, clock := opened(t)
	token, s, _ := d.Enter(t.Context(), phrase, "", "here")
	if !d.Confirmed(s) {
		t.Error("who came in now has just said it")
	}
	*clock = clock.Add(confirmedIs)
	s, _ = d.Session(token)
	if d.Confirmed(s) {
		t.Error("ten minutes later it still counts")
	}
	if err := d.Confirm(s.ID, "wrong words on it", "here"); !errors.Is(err, ErrWrong) {
		t.Errorf("%v", err)
	}
	if err := d.Confirm(s.ID, phrase, "here"); err != nil {
		t.Fatal(err)
	}
	if s, _ = d.Session(token); !d.Confirmed(s) {
		t.Error("it was said again")
	}
}

// A phone that trusts the root reaches the server under its names, and the root vouches for no other.
func TestTheSelfMadeCertificate(t *testing.T) {
	d, clock := opened(t)
	*clock = time.Now()
	made, err := d.SelfMade([]string{"127.0.0.1", "bench.local"})
	if err != nil {
		t.Fatal(err)
	}
	server := httptest.NewUnstartedServer(http.HandlerFunc(func(w http.ResponseWriter, _ *http.Request) { w.WriteHeader(http.StatusNoContent) }))
	server.TLS = &tls.Config{Certificates: []tls.Certificate{made.TLS}, MinVersion: tls.VersionTLS12}
	server.StartTLS()
	defer server.Close()
	roots := x509.NewCertPool()
	root, err := x509.ParseCertificate(made.RootDER)
	if err != nil {
		t.Fatal(err)
	}
	roots.AddCert(root)
	client := &http.Client{Transport: &http.Transport{TLSClientConfig: &tls.Config{RootCAs: roots, MinVersion: tls.VersionTLS12}}}
	got, err := client.Get(server.URL)
	if err != nil {
		t.Fatal(err)
	}
	_ = got.Body.Close() // it is empty
	leaf, err := x509.ParseCertificate(made.TLS.Certificate[0])
	if err != nil {
		t.Fatal(err)
	}
	if _, err := leaf.Verify(x509.VerifyOptions{Roots: roots, DNSName: "bench.local"}); err != nil {
		t.Errorf("its own name: %v", err)
	}
	if _, err := leaf.Verify(x509.VerifyOptions{Roots: roots, DNSName: "elsewhere.example"}); err == nil {
		t.Error("another name")
	}
	again, err := d.SelfMade([]string{"bench.local"})
	if err != nil || again.Fingerprint != made.Fingerprint || len(made.Fingerprint) != 95 {
		t.Errorf("%v: the root changed from %s to %s", err, made.Fingerprint, again.Fingerprint)
	}
	other, err := d.SelfMade([]string{"elsewhere.example"})
	if err != nil || other.Fingerprint == made.Fingerprint {
		t.Errorf("%v: one root vouches for every name", err)
	}
}

// A log that is full begins anew, and the one before it is kept; a line that was cut off is passed over.
func TestTheLogIsBounded(t *testing.T) {
	d, _ := opened(t)
	for range 6 {
		for range 2200 {
			d.Log.Note(Event{What: Refused, From: "10.0.0.4", Who: "somebody", Detail: strings.Repeat("x", 2*detailMost)})
		}
	}
	var all int64
	for _, name := range []string{"access.log", "access.log.1"} {
		info, err := os.Stat(filepath.Join(d.dir, name))
		if err != nil {
			t.Fatal(err)
		}
		all += info.Size()
		if info.Size() > logBytes+1000 {
			t.Errorf("%s has %d bytes", name, info.Size())
		}
	}
	if all < logBytes {
		t.Errorf("%d bytes are kept of what was written", all)
	}
	file, err := os.OpenFile(filepath.Join(d.dir, "access.log"), os.O_APPEND|os.O_WRONLY, fileMode)
	if err != nil {
		t.Fatal(err)
	}
	if _, err := file.WriteString(`{"at_ms":1,"wh`); err != nil || file.Close() != nil {
		t.Fatal(err)
	}
	events, err := d.Log.Last()
	if err != nil || len(events) != logShown || len(events[0].Detail) != detailMost {
		t.Errorf("%d events, %v", len(events), err)
	}
}
