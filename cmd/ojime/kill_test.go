package main

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"mime/multipart"
	"net/http"
	"os"
	"path/filepath"
	"strconv"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
)

// order is one command of the load. What a killed program left unanswered is sent
// again under the same id, as a page would.
type order struct {
	id, path, kind string
	body           []byte
	name           string // by which it is found afterwards
}

// load is a mix of what a busy bench sends: entries, knots, uploads, a print's
// top-ups, and a device's messages.
type load struct {
	t       *testing.T
	address string
	run     string
	machine string
	token   string

	mu      sync.Mutex
	pending []order  // sent and not answered
	done    []string // names that were acknowledged
	seq     atomic.Int64
	told    atomic.Int64 // messages acknowledged
	number  atomic.Int64
}

// next makes a command of one of the kinds.
func (l *load) next(worker int) order {
	n := l.number.Add(1)
	name := fmt.Sprintf("load %d", n)
	o := order{id: fmt.Sprintf("kill-%d", n), kind: "application/json", name: name}
	switch worker % 5 {
	case 0:
		o.path, o.body = "instruments", fmt.Appendf(nil, `{"name":%q,"resolution_mm":0.01,"reference_u_mm":0.01}`, name)
	case 1:
		o.path = "resins"
		o.body = fmt.Appendf(nil, `{"name":%q,"maker":"","family":"","colour":"#555555","bottle_ml":1000,"price_list":30,"notes":"","price_discount":0,"price_shipping":0,"price_tax_pct":0,"price_tax_included":true}`, name)
	case 2:
		o.path, o.body = "machine-events", fmt.Appendf(nil, `{"machine_id":%q,"at_ms":1790000000000,"kinds":["film"],"note":%q}`, l.machine, name)
	case 3:
		o.path, o.body = "runs/"+l.run+"/events", fmt.Appendf(nil, `{"at_ms":0,"kind":"top_up","ml":1,"note":%q}`, name)
	case 4:
		var form bytes.Buffer
		w := multipart.NewWriter(&form)
		part, err := w.CreateFormFile("file", "wedge.stl")
		if err == nil {
			_, err = part.Write(wedgeSTL(int(n))) // each another file
		}
		if err == nil {
			err = w.WriteField("name", name)
		}
		if err == nil {
			err = w.Close()
		}
		if err != nil {
			l.t.Error(err)
		}
		o.path, o.kind, o.body = "pieces", w.FormDataContentType(), form.Bytes()
	}
	return o
}

// send reports whether the command was acknowledged; false is a program that is
// gone.
func (l *load) send(o order) bool {
	req, err := http.NewRequest(http.MethodPost, l.address+"/api/v1/"+o.path, bytes.NewReader(o.body))
	if err != nil {
		l.t.Error(err)
		return false
	}
	req.Header.Set("Content-Type", o.kind)
	req.Header.Set("Idempotency-Key", o.id)
	res, err := http.DefaultClient.Do(req)
	if err != nil {
		return false
	}
	defer func() { _ = res.Body.Close() }()
	text, err := io.ReadAll(res.Body)
	if err != nil {
		return false
	}
	if res.StatusCode != http.StatusOK {
		l.t.Errorf("%s: %d %.300s", o.path, res.StatusCode, text)
		return false
	}
	l.mu.Lock()
	defer l.mu.Unlock()
	l.done = append(l.done, o.name)
	return true
}

// tell sends a message of the device; one that was not answered is sent again.
func (l *load) tell() bool {
	seq := l.seq.Load() + 1
	status, _ := sendQuietly(l.address, l.token, fmt.Sprintf("boot %d %d idle 0 0", seq, 1_790_000_000_000+seq*1000))
	if status != http.StatusOK {
		return false
	}
	l.seq.Store(seq)
	l.told.Add(1)
	return true
}

func sendQuietly(address, token, line string) (int, error) {
	req, err := http.NewRequest(http.MethodPost, address+"/api/v1/feed", strings.NewReader(line))
	if err != nil {
		return 0, err
	}
	req.Header.Set("Authorization", "Bearer "+token)
	req.Header.Set("Content-Type", "text/plain")
	res, err := http.DefaultClient.Do(req)
	if err != nil {
		return 0, err
	}
	defer func() { _ = res.Body.Close() }()
	_, err = io.Copy(io.Discard, res.Body)
	return res.StatusCode, err
}

// until sends commands until the program has acknowledged enough, kills it, and
// waits until every worker has seen it gone.
func (l *load) until(enough int64, kill func()) {
	var acknowledged atomic.Int64
	var all sync.WaitGroup
	for w := range 5 {
		all.Go(func() {
			for {
				o := l.next(w)
				if !l.send(o) {
					l.mu.Lock()
					defer l.mu.Unlock()
					l.pending = append(l.pending, o)
					return
				}
				if acknowledged.Add(1) == enough {
					kill()
				}
			}
		})
	}
	all.Go(func() {
		for l.tell() {
		}
	})
	all.Wait()
}

// Under a mixed load the program is killed without warning, again and again: nothing
// that was acknowledged is lost, nothing that was sent again is doubled, and nothing
// is left behind. OJIME_KILLS says how often; a few times unless told otherwise.
func TestKillsUnderLoadLoseNothing(t *testing.T) {
	kills := 4
	if text := os.Getenv("OJIME_KILLS"); text != "" {
		var err error
		if kills, err = strconv.Atoi(text); err != nil {
			t.Fatal(err)
		}
	}
	killing(t, kills)
}

// killing kills the program so often under load, and says what became of what it had acknowledged.
func killing(t *testing.T, kills int) tally {
	t.Helper()
	binary, data := build(t), t.TempDir()
	cmd, address := start(t, binary, data)
	l := &load{t: t}
	l.run, l.token = prepare(t, address)
	var sheet struct{ Machine struct{ ID string } }
	get(t, address+"/api/v1/runs/"+l.run, &sheet)
	l.machine = sheet.Machine.ID
	var live json.RawMessage
	post(t, address+"/api/v1/runs/"+l.run+"/preflight/skip", "application/json", `{"reason":"a test"}`, &live)
	post(t, address+"/api/v1/runs/"+l.run+"/events", "application/json", `{"at_ms":0,"kind":"start","note":""}`, &live)
	for round := range kills {
		l.address = address
		l.until(int64(20+7*(round%5)), func() { _ = cmd.Process.Kill() })
		_ = cmd.Wait() // it was killed
		cmd, address = start(t, binary, data)
		l.address = address
		again := l.pending
		l.pending = nil
		for _, o := range again {
			if !l.send(o) {
				t.Fatalf("%s was not taken after the restart", o.path)
			}
		}
		for !l.tell() {
		}
	}
	out := tally{what: fmt.Sprintf("%d kills under a mixed load", kills), acknowledged: len(l.done) + int(l.told.Load())}
	out.lost, out.doubled = l.compare(address)
	if err := cmd.Process.Signal(os.Interrupt); err != nil {
		t.Fatal(err)
	}
	_ = cmd.Wait()
	out.checked(t, data)
	if left, err := os.ReadDir(filepath.Join(data, "ojime-tmp")); err != nil || len(left) > 0 {
		t.Errorf("left behind: %v (%v)", left, err)
	}
	t.Log(out)
	return out
}

// compare counts what is on record under each name that was acknowledged.
func (l *load) compare(address string) (lost, doubled int) {
	l.t.Helper()
	var record struct {
		Instruments, Resins, Pieces []struct{ Name string }
		Events                      []struct{ Note string }
		RunEvents                   []struct{ Note string } `json:"run_events"`
		Sessions                    []struct {
			Received int64
			LastSeq  int64 `json:"last_seq"`
		} `json:"device_sessions"`
		Messages []json.RawMessage `json:"device_messages"`
	}
	get(l.t, address+"/api/v1/record", &record)
	times := map[string]int{}
	for _, list := range [][]struct{ Name string }{record.Instruments, record.Resins, record.Pieces} {
		for _, e := range list {
			times[e.Name]++
		}
	}
	for _, list := range [][]struct{ Note string }{record.Events, record.RunEvents} {
		for _, e := range list {
			times[e.Note]++
		}
	}
	for _, name := range l.done {
		switch n := times[name]; {
		case n == 0:
			lost++
		case n > 1:
			doubled++
		}
		if times[name] != 1 {
			l.t.Errorf("%s was acknowledged and is there %d times", name, times[name])
		}
	}
	if n := l.seq.Load(); len(record.Messages) != int(n) || len(record.Sessions) != 1 || record.Sessions[0].Received != n || record.Sessions[0].LastSeq != n {
		l.t.Errorf("%d messages acknowledged, %d there, sessions %+v", n, len(record.Messages), record.Sessions)
		lost, doubled = lost+max(0, int(n)-len(record.Messages)), doubled+max(0, len(record.Messages)-int(n))
	}
	return lost, doubled
}

// wedgeSTL is a small solid of its own for each number.
func wedgeSTL(n int) []byte {
	var b strings.Builder
	b.WriteString("solid wedge\n")
	corner := [][3]int{{0, 0, 0}, {9 + n, 0, 0}, {0, 9, 0}, {0, 0, 9}}
	for _, f := range [][3]int{{0, 2, 1}, {0, 1, 3}, {1, 2, 3}, {2, 0, 3}} {
		b.WriteString("facet normal 0 0 0\nouter loop\n")
		for _, c := range f {
			fmt.Fprintf(&b, "vertex %d %d %d\n", corner[c][0], corner[c][1], corner[c][2])
		}
		b.WriteString("endloop\nendfacet\n")
	}
	b.WriteString("endsolid wedge")
	return []byte(b.String())
}
