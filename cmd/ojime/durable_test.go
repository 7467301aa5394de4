package main

import (
	"bufio"
	"bytes"
	"errors"
	"io"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"ojime/internal/bench"
	"ojime/internal/store"
)

// start runs the real program on a free port and returns its process and
// address once it has printed it.
func start(t *testing.T, binary, data string, more ...string) (*exec.Cmd, string) {
	t.Helper()
	cmd := exec.Command(binary, append([]string{"serve", "--addr", "127.0.0.1:0", "--data", data}, more...)...)
	cmd.Stderr = os.Stderr
	out, err := cmd.StdoutPipe()
	if err != nil {
		t.Fatal(err)
	}
	if err := cmd.Start(); err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { _ = cmd.Process.Kill() }) // it may be gone already
	said := bufio.NewScanner(out)
	for said.Scan() {
		if _, address, found := strings.Cut(strings.TrimSpace(said.Text()), "http://"); found {
			return cmd, "http://" + address
		}
	}
	t.Fatalf("the program ended before it said its address (%v)", said.Err())
	return nil, ""
}

func build(t *testing.T) string {
	t.Helper()
	binary := filepath.Join(t.TempDir(), "ojime")
	if out, err := exec.Command("go", "build", "-o", binary, ".").CombinedOutput(); err != nil {
		t.Fatalf("build: %v\n%s", err, out)
	}
	return binary
}

func emptyRecord(t *testing.T) string {
	t.Helper()
	dir := t.TempDir()
	s, err := store.Open(t.Context(), dir)
	if err == nil {
		err = s.Close()
	}
	if err != nil {
		t.Fatal(err)
	}
	return dir
}

func TestCommandsSayWhatIsWrong(t *testing.T) {
	record := emptyRecord(t)
	var out bytes.Buffer
	for _, c := range []struct {
		args []string
		want string
	}{
		{nil, "no command"},
		{[]string{"print"}, `no command "print"`},
		{[]string{"backup", "--data", record}, "name the file"},
		{[]string{"restore", "--data", t.TempDir()}, "name the backup"},
		{[]string{"check", "--data", t.TempDir()}, "holds no record"},
		{[]string{"check", "--data", filepath.Join(t.TempDir(), "nowhere")}, "holds no record"},
		{[]string{"serve", "--addr", "0.0.0.0:0", "--data", t.TempDir()}, "passphrase"},
		{[]string{"serve", "--addr", "8420", "--data", t.TempDir()}, "HOST:PORT"},
		{[]string{"serve", "--backup-to", t.TempDir(), "--read-only", "--data", record}, "leave --read-only out"},
		{[]string{"serve", "--backup-to", t.TempDir(), "--backup-every", "59s", "--data", record}, "write 1m0s or more"},
		{[]string{"serve", "--backup-to", t.TempDir(), "--backup-keep", "0", "--data", record}, "keep at least one"},
	} {
		if err := run(t.Context(), c.args, &out); err == nil || !strings.Contains(err.Error(), c.want) {
			t.Errorf("%v: error %v, want one with %q", c.args, err, c.want)
		}
	}
}

func TestABackupComesBack(t *testing.T) {
	data, copied := emptyRecord(t), filepath.Join(t.TempDir(), "copy.zip")
	again := filepath.Join(t.TempDir(), "again")
	var out bytes.Buffer
	for _, args := range [][]string{{"check", "--data", data}, {"backup", copied, "--data", data}, {"restore", copied, "--data", again}, {"check", "--data", again}} {
		if err := run(t.Context(), args, &out); err != nil {
			t.Errorf("%v: %v", args, err)
		}
	}
	if got := out.String(); strings.Count(got, "The record is whole.") != 2 || !strings.Contains(got, "restored it to") {
		t.Errorf("said %q", got)
	}
	if err := os.WriteFile(copied, nil, 0o600); err != nil {
		t.Fatal(err)
	}
	if err := run(t.Context(), []string{"restore", copied, "--data", filepath.Join(t.TempDir(), "third")}, &out); err == nil {
		t.Error("an empty file was restored")
	}
}

// A demo that was broken off while it was filled starts over.
func TestADemoThatWasBrokenOffStartsOver(t *testing.T) {
	dir := emptyRecord(t)
	s, err := store.Open(t.Context(), dir)
	if err != nil {
		t.Fatal(err)
	}
	bottleML := 1000.0
	if err := s.Write(t.Context(), func(tx *store.Tx) error {
		return tx.SaveResin(bench.Resin{ID: "half", Code: "L1", Version: 1, Name: "Half", BottleML: &bottleML, PriceList: 1})
	}); err != nil {
		t.Fatal(err)
	}
	if err := s.Close(); err != nil {
		t.Fatal(err)
	}
	mark := filepath.Join(dir, unfinished)
	if err := os.WriteFile(mark, nil, 0o600); err != nil {
		t.Fatal(err)
	}
	if err := run(t.Context(), []string{"demo", "--fill-only", "--data", dir}, io.Discard); err != nil {
		t.Fatal(err)
	}
	if _, err := os.Stat(mark); err == nil {
		t.Error("the mark is still there")
	}
	if s, err = store.Open(t.Context(), dir); err != nil {
		t.Fatal(err)
	}
	defer func() { _ = s.Close() }()
	err = s.Read(t.Context(), func(tx *store.Tx) error {
		machines, err := tx.Machines()
		if len(machines) != 7 {
			t.Errorf("%d machines", len(machines))
		}
		if _, err := tx.Resin("half"); err == nil {
			t.Error("what was half filled is still there")
		}
		return err
	})
	if err != nil {
		t.Error(err)
	}
}

// A record that may only be looked at is served; changes are refused with a reason.
func TestARecordIsLookedAt(t *testing.T) {
	data := emptyRecord(t)
	cmd, address := start(t, build(t), data, "--read-only")
	defer func() { _ = cmd.Process.Kill() }()
	var program struct {
		ReadOnly bool `json:"read_only"`
	}
	get(t, address+"/api/v1/program", &program)
	var machines []any
	get(t, address+"/api/v1/machines", &machines)
	res, err := http.Post(address+"/api/v1/instruments", "application/json", strings.NewReader(`{"name":"Caliper","resolution_mm":0.01,"reference_u_mm":0.01}`))
	if err != nil {
		t.Fatal(err)
	}
	defer func() { _ = res.Body.Close() }()
	text, err := io.ReadAll(res.Body)
	if err != nil || !program.ReadOnly || res.StatusCode != http.StatusForbidden || !strings.Contains(string(text), "nothing can be changed") {
		t.Errorf("read only %v, a change: %d %s (%v)", program.ReadOnly, res.StatusCode, text, err)
	}
}

// A schedule writes its first backup as it starts, and what it wrote is restored.
func TestBackupsAreWrittenWhileTheProgramRuns(t *testing.T) {
	binary, data, safe := build(t), emptyRecord(t), filepath.Join(t.TempDir(), "safe")
	_, address := start(t, binary, data, "--backup-to", safe, "--backup-every", "1h", "--backup-keep", "3")
	var there []store.BackupFile
	for len(there) == 0 { // the test's own limit ends it where none is written
		res, err := http.Get(address + "/api/v1/safekeeping")
		if err != nil {
			t.Fatal(err)
		}
		body, err := io.ReadAll(res.Body)
		if err := errors.Join(err, res.Body.Close()); err != nil || bytes.Contains(body, []byte(`"failed":"n`)) {
			t.Fatalf("%s, %v", body, err)
		}
		if bytes.Contains(body, []byte(".zip")) {
			if there, err = store.Backups(safe); err != nil {
				t.Fatal(err)
			}
		}
	}
	var out bytes.Buffer
	if err := run(t.Context(), []string{"restore", filepath.Join(safe, there[0].Name), "--data", filepath.Join(t.TempDir(), "again")}, &out); err != nil {
		t.Error(err)
	}
}
