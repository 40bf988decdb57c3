node -e "import('./scripts/setup.mjs').then(m=>{m.ensureBuild()})" > /tmp/build.log 2>&1; tail -1 /tmp/build.log
pkill -f scripts/demo.mjs; sleep 0.5; (PORT=4173 node scripts/demo.mjs > /tmp/demo.log 2>&1 &) ; for i in $(seq 1 60); do sleep 1; grep -q "http" /tmp/demo.log && break; done
