package main
import ("fmt";"log";"os";"time";"exactflask/e2e/browser")
func main(){
 s,err:=browser.StartDemo("bin/exactflask","/tmp/look2/demo2.db"); if err!=nil{log.Fatal(err)}; defer s.Stop()
 b,err:=browser.Open(); if err!=nil{log.Fatal(err)}; defer b.Close()
 fail:=func(f string,a ...any){ s.Stop(); log.Fatalf(f,a...)}
 shot:=func(p *browser.Page,n string){ time.Sleep(500*time.Millisecond); os.WriteFile("/tmp/look2/"+n+".png",p.Picture(),0o644)}
 p:=b.Page(s,1280,800,fail); p.SignIn("Mira Quillon")
 p.Until(`document.querySelector("article") !== null`)
 browser.Evaluate[bool](p, fmt.Sprintf(`[...document.querySelectorAll("article")].find(a => a.innerText.includes(%q)).querySelector("a[href*=notebooks]").click(), true`, "oyster shell"))
 p.See("Journal"); p.Click("Own working"); p.Until(`document.querySelector("[data-test=given]")!==null`)
 shot(p,"given"); p.Resize(390,844); browser.Evaluate[bool](p,`(document.querySelector("[data-test=given]").scrollIntoView({block:"center"}),true)`); shot(p,"given-phone")
 q:=b.Page(s,1280,800,fail); q.SignIn("Dr Ondine Farrow"); q.Click("Plan a new practical"); q.Click("Begin with an empty one"); q.Choose("#plan-reaction","ethanoic-naoh"); browser.Evaluate[bool](q,`(()=>{const s=document.querySelector("#plan-need");s.value="1";s.dispatchEvent(new Event("change",{bubbles:true}));return true})()`); 
 browser.Evaluate[bool](q,`(document.querySelector("#plan-need").scrollIntoView({block:"center"}),true)`); shot(q,"need")
}
