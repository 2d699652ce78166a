package browser

import (
	"bufio"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"net/http"
	"net/http/httptest"
	"os"
	"os/exec"
	"strings"
	"time"

	"golang.org/x/net/websocket"
)

// readAll returns the rectangles of all elements: what both timings read at every width.
const readAll = `[...document.querySelectorAll("body *")].map(e => { const r = e.getBoundingClientRect(); return [r.x, r.y, r.width, r.height]; })`

// session is one DevTools connection to one page.
type session struct {
	ws *websocket.Conn
	id int
}

func (s *session) call(method string, params any) (json.RawMessage, error) {
	s.id++
	if err := websocket.JSON.Send(s.ws, map[string]any{"id": s.id, "method": method, "params": params}); err != nil {
		return nil, err
	}
	for {
		var m struct {
			ID     int
			Result json.RawMessage
			Error  *struct{ Message string }
		}
		if err := websocket.JSON.Receive(s.ws, &m); err != nil {
			return nil, err
		}
		if m.ID == s.id {
			if m.Error != nil {
				return nil, errors.New(m.Error.Message)
			}
			return m.Result, nil
		}
	}
}

// Timing is how long the browser took for one width of a page, in two ways.
type Timing struct {
	Session time.Duration // a width set and all rectangles read through one DevTools session
	InPage  time.Duration // the same inside one page, in a frame: the bare layout engine
}

// Race times page (a path below root) at widths.
func Race(ctx context.Context, root, page string, widths []int) (Timing, error) {
	var t Timing
	srv := httptest.NewServer(http.FileServer(http.Dir(root)))
	defer srv.Close()
	profile, err := os.MkdirTemp("", "ziegel-browser")
	if err != nil {
		return t, err
	}
	defer os.RemoveAll(profile)
	ctx, cancel := context.WithCancel(ctx)
	defer cancel()
	cmd := exec.CommandContext(ctx, Path(), append(flags(profile), "--remote-debugging-port=0", "--remote-allow-origins=*", "--window-size=2700,1000", srv.URL+"/"+page)...)
	stderr, err := cmd.StderrPipe()
	if err != nil {
		return t, err
	}
	if err := cmd.Start(); err != nil {
		return t, err
	}
	defer func() { cancel(); _ = cmd.Wait() }()
	host := ""
	for lines := bufio.NewScanner(stderr); host == "" && lines.Scan(); {
		if _, at, ok := strings.Cut(lines.Text(), "DevTools listening on ws://"); ok {
			host, _, _ = strings.Cut(at, "/")
		}
	}
	go func() { // what it says later must not block it
		for b := make([]byte, 4096); ; {
			if _, err := stderr.Read(b); err != nil {
				return
			}
		}
	}()
	var targets []struct {
		Type string
		URL  string `json:"webSocketDebuggerUrl"`
	}
	for range 50 {
		if res, err := http.Get("http://" + host + "/json/list"); err == nil {
			_ = json.NewDecoder(res.Body).Decode(&targets)
			res.Body.Close()
		}
		if len(targets) > 0 {
			break
		}
		time.Sleep(100 * time.Millisecond)
	}
	if len(targets) == 0 {
		return t, errors.New("the browser shows no page")
	}
	ws, err := websocket.Dial(targets[0].URL, "", "http://"+host)
	if err != nil {
		return t, fmt.Errorf("open a DevTools session: %w", err)
	}
	defer ws.Close()
	ws.MaxPayloadBytes = 64 << 20
	s := &session{ws: ws}
	eval := func(js string) (json.RawMessage, error) {
		return s.call("Runtime.evaluate", map[string]any{"expression": js, "awaitPromise": true, "returnByValue": true})
	}
	ready := `new Promise(done => { const f = () => document.readyState == "complete" ? document.fonts.ready.then(() => setTimeout(done, 300)) : setTimeout(f, 20); f(); })`
	for try := 0; ; try++ { // the page may still be on its way, and take the session's first answer with it
		out, err := eval(ready + `.then(() => location.href)`)
		if err == nil && strings.Contains(string(out), srv.URL) {
			break
		}
		if try > 50 {
			return t, fmt.Errorf("the page does not load: %v", err)
		}
		time.Sleep(100 * time.Millisecond)
	}
	start := time.Now()
	for _, w := range widths {
		if _, err := s.call("Emulation.setDeviceMetricsOverride", map[string]any{"width": w, "height": 900, "deviceScaleFactor": 1, "mobile": false}); err != nil {
			return t, err
		}
		if _, err := eval(readAll); err != nil {
			return t, err
		}
	}
	t.Session = time.Since(start) / time.Duration(len(widths))
	list, err := json.Marshal(widths)
	if err != nil {
		return t, err
	}
	out, err := eval(`(async () => {
  const frame = document.createElement("iframe");
  frame.style.cssText = "border:0;position:absolute;left:0;top:0";
  frame.width = 1000; frame.height = 900;
  document.body.replaceChildren(frame);
  await new Promise(done => { frame.onload = done; frame.src = location.href; });
  const document2 = frame.contentDocument;
  await document2.fonts.ready;
  await new Promise(done => setTimeout(done, 300));
  const read = new Function("document", "return ` + strings.ReplaceAll(readAll, `"`, `\"`) + `");
  const start = performance.now();
  let n = 0;
  for (const w of ` + string(list) + `) { frame.width = w; n += read(document2).length; }
  return (performance.now() - start) / ` + fmt.Sprint(len(widths)) + `;
})()`)
	if err != nil {
		return t, err
	}
	var result struct{ Result struct{ Value float64 } }
	if err := json.Unmarshal(out, &result); err != nil || result.Result.Value == 0 {
		return t, fmt.Errorf("the page gave no time: %s", out)
	}
	t.InPage = time.Duration(result.Result.Value * float64(time.Millisecond))
	return t, nil
}
