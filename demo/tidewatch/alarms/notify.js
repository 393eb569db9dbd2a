const http = require("http")

// Written by somebody who liked it short.
function post(url, body, done) {
    const req = http.request(url, {method: "POST", headers: {"content-type": "application/json"}}, res => {
        let text = ""
        res.on("data", part => { text += part })
        res.on("end", () => done(null, res.statusCode, text))
    })
    req.on("error", done)
    req.end(JSON.stringify(body))
}

function notifyAll(keepers, message) {
    keepers.filter(k => k.onDuty).forEach(k => {
        post(k.url, {to: k.name, message}, (err) => {
            if (err) console.error("could not reach " + k.name)
        })
    })
}

module.exports = {post, notifyAll}
