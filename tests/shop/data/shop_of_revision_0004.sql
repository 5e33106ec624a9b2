BEGIN TRANSACTION;
CREATE TABLE alembic_version (
	version_num VARCHAR(32) NOT NULL, 
	CONSTRAINT alembic_version_pkc PRIMARY KEY (version_num)
);
INSERT INTO "alembic_version" VALUES('0004');
CREATE TABLE house (
	id INTEGER NOT NULL, 
	name VARCHAR(40) NOT NULL, 
	value VARCHAR(80) NOT NULL, 
	"by" VARCHAR(8) NOT NULL, 
	at DATETIME NOT NULL, 
	CONSTRAINT pk_house PRIMARY KEY (id)
);
CREATE TABLE jobs (
	id INTEGER NOT NULL, 
	"key" VARCHAR(16) NOT NULL, 
	token VARCHAR(64) NOT NULL, 
	title VARCHAR(120) NOT NULL, 
	created_at DATETIME NOT NULL, 
	touched_at DATETIME NOT NULL, 
	seq INTEGER NOT NULL, 
	CONSTRAINT pk_jobs PRIMARY KEY (id), 
	CONSTRAINT uq_jobs_key UNIQUE ("key"), 
	CONSTRAINT uq_jobs_token UNIQUE (token)
);
INSERT INTO "jobs" VALUES(1,'ec2d5df7','14d88b9dd66f3982c66ffe083f564ca6','Railcar 12, V-six','2026-11-25 20:48:47.460591','2026-11-26 00:38:48.580889',127);
INSERT INTO "jobs" VALUES(2,'cab3655f','b18f6d0dcb6608b2a556bc990e213f2d','Hill-climb four','2026-11-25 19:38:47.460591','2026-11-25 20:24:57.460591',34);
CREATE TABLE library (
	id INTEGER NOT NULL, 
	kind VARCHAR(16) NOT NULL, 
	name VARCHAR(80) NOT NULL, 
	typed JSON NOT NULL, 
	"by" VARCHAR(8) NOT NULL, 
	at DATETIME NOT NULL, 
	CONSTRAINT pk_library PRIMARY KEY (id)
);
CREATE TABLE photos (
	reading_id INTEGER NOT NULL, 
	media_type VARCHAR(16) NOT NULL, 
	data BLOB NOT NULL, 
	CONSTRAINT pk_photos PRIMARY KEY (reading_id), 
	CONSTRAINT fk_photos_reading_id FOREIGN KEY(reading_id) REFERENCES readings (id)
);
CREATE TABLE readings (
	id INTEGER NOT NULL, 
	job_id INTEGER NOT NULL, 
	seq INTEGER NOT NULL, 
	token VARCHAR(64), 
	station VARCHAR(24) NOT NULL, 
	slot VARCHAR(64) NOT NULL, 
	text VARCHAR(64) NOT NULL, 
	side VARCHAR(8), 
	approach VARCHAR(16) NOT NULL, 
	"drop" VARCHAR(32), 
	unit VARCHAR(8) NOT NULL, 
	instrument VARCHAR(32) NOT NULL, 
	"by" VARCHAR(8) NOT NULL, 
	at DATETIME NOT NULL, note VARCHAR(600), 
	CONSTRAINT pk_readings PRIMARY KEY (id), 
	CONSTRAINT fk_readings_job_id FOREIGN KEY(job_id) REFERENCES jobs (id), 
	CONSTRAINT uq_readings_token UNIQUE (token), 
	CONSTRAINT uq_readings_job_id_seq UNIQUE (job_id, seq)
);
INSERT INTO "readings" VALUES(1,1,4,NULL,'runout','set-1.1.dial','-0.0020',NULL,'forward','0','inch','by eye','RK','2026-11-25 21:00:27.460591',NULL);
INSERT INTO "readings" VALUES(2,1,5,NULL,'runout','set-1.2.dial','-0.0020',NULL,'forward','45','inch','by eye','RK','2026-11-25 21:01:07.460591',NULL);
INSERT INTO "readings" VALUES(3,1,6,NULL,'runout','set-1.3.dial','-0.0010',NULL,'forward','90','inch','by eye','RK','2026-11-25 21:01:47.460591',NULL);
INSERT INTO "readings" VALUES(4,1,7,NULL,'runout','set-1.4.dial','0.0005',NULL,'forward','135','inch','by eye','RK','2026-11-25 21:02:27.460591',NULL);
INSERT INTO "readings" VALUES(5,1,8,NULL,'runout','set-1.5.dial','0.0025',NULL,'forward','180','inch','by eye','RK','2026-11-25 21:03:07.460591',NULL);
INSERT INTO "readings" VALUES(6,1,9,NULL,'runout','set-1.6.dial','0.0025',NULL,'forward','225','inch','by eye','RK','2026-11-25 21:03:47.460591',NULL);
INSERT INTO "readings" VALUES(7,1,10,NULL,'runout','set-1.7.dial','0.0005',NULL,'forward','270','inch','by eye','RK','2026-11-25 21:04:27.460591',NULL);
INSERT INTO "readings" VALUES(8,1,11,NULL,'runout','set-1.8.dial','-0.0010',NULL,'forward','315','inch','by eye','RK','2026-11-25 21:05:07.460591',NULL);
INSERT INTO "readings" VALUES(9,1,12,NULL,'runout','set-1.9.dial','-0.0020',NULL,'forward','360','inch','by eye','RK','2026-11-25 21:05:47.460591',NULL);
INSERT INTO "readings" VALUES(10,1,13,NULL,'runout','set-2.1.dial','-0.0015',NULL,'forward','0','inch','by eye','RK','2026-11-25 21:06:27.460591',NULL);
INSERT INTO "readings" VALUES(11,1,14,NULL,'runout','set-2.2.dial','-0.0015',NULL,'forward','45','inch','by eye','RK','2026-11-25 21:07:07.460591',NULL);
INSERT INTO "readings" VALUES(12,1,15,NULL,'runout','set-2.3.dial','-0.0005',NULL,'forward','90','inch','by eye','RK','2026-11-25 21:07:47.460591',NULL);
INSERT INTO "readings" VALUES(13,1,16,NULL,'runout','set-2.4.dial','0.0010',NULL,'forward','135','inch','by eye','RK','2026-11-25 21:08:27.460591',NULL);
INSERT INTO "readings" VALUES(14,1,17,NULL,'runout','set-2.5.dial','0.0025',NULL,'forward','180','inch','by eye','RK','2026-11-25 21:09:07.460591',NULL);
INSERT INTO "readings" VALUES(15,1,18,NULL,'runout','set-2.6.dial','0.0030',NULL,'forward','225','inch','by eye','RK','2026-11-25 21:09:47.460591',NULL);
INSERT INTO "readings" VALUES(16,1,19,NULL,'runout','set-2.7.dial','0.0010',NULL,'forward','270','inch','by eye','RK','2026-11-25 21:10:27.460591',NULL);
INSERT INTO "readings" VALUES(17,1,20,NULL,'runout','set-2.8.dial','-0.0005',NULL,'forward','315','inch','by eye','RK','2026-11-25 21:11:07.460591',NULL);
INSERT INTO "readings" VALUES(18,1,21,NULL,'runout','set-2.9.dial','-0.0010',NULL,'forward','360','inch','by eye','RK','2026-11-25 21:11:47.460591',NULL);
INSERT INTO "readings" VALUES(19,1,23,NULL,'choice','seat.1.seen','yes',NULL,'forward',NULL,'inch','by eye','RK','2026-11-25 21:15:37.460591',NULL);
INSERT INTO "readings" VALUES(20,1,24,NULL,'choice','camseat.1.seen','yes',NULL,'forward',NULL,'inch','by eye','RK','2026-11-25 21:16:27.460591',NULL);
INSERT INTO "readings" VALUES(21,1,25,NULL,'choice','journals.1.seen','yes',NULL,'forward',NULL,'inch','by eye','RK','2026-11-25 21:17:17.460591',NULL);
INSERT INTO "readings" VALUES(22,1,26,NULL,'choice','center.1.seen','na',NULL,'forward',NULL,'inch','by eye','RK','2026-11-25 21:18:07.460591',NULL);
INSERT INTO "readings" VALUES(23,1,27,NULL,'choice','chosen.1.seen','hydraulic',NULL,'forward',NULL,'inch','by eye','RK','2026-11-25 21:18:57.460591',NULL);
INSERT INTO "readings" VALUES(24,1,29,NULL,'end-play','fitted-crank.1.seen','all',NULL,'forward',NULL,'inch','by eye','RK','2026-11-25 21:24:47.460591',NULL);
INSERT INTO "readings" VALUES(25,1,30,NULL,'end-play','crank.1.travel','0.0065',NULL,'forward',NULL,'inch','by eye','RK','2026-11-25 21:25:27.460591',NULL);
INSERT INTO "readings" VALUES(26,1,31,NULL,'end-play','crank.2.travel','0.0060',NULL,'forward',NULL,'inch','by eye','RK','2026-11-25 21:26:07.460591',NULL);
INSERT INTO "readings" VALUES(27,1,32,NULL,'end-play','crank.3.travel','0.0065',NULL,'forward',NULL,'inch','by eye','RK','2026-11-25 21:26:47.460591',NULL);
INSERT INTO "readings" VALUES(28,1,34,NULL,'gear-fit','bearing.1.seen','yes',NULL,'forward',NULL,'inch','by eye','RK','2026-11-25 21:31:37.460591',NULL);
INSERT INTO "readings" VALUES(29,1,35,NULL,'gear-fit','ring.1.seen','yes',NULL,'forward',NULL,'inch','by eye','RK','2026-11-25 21:32:27.460591',NULL);
INSERT INTO "readings" VALUES(30,1,36,NULL,'gear-fit','keytried.1.seen','yes',NULL,'forward',NULL,'inch','by eye','RK','2026-11-25 21:33:17.460591',NULL);
INSERT INTO "readings" VALUES(31,1,37,NULL,'gear-fit','plate.1.seen','yes',NULL,'forward',NULL,'inch','by eye','RK','2026-11-25 21:34:07.460591',NULL);
INSERT INTO "readings" VALUES(32,1,38,NULL,'gear-fit','marks.1.seen','yes',NULL,'forward',NULL,'inch','by eye','RK','2026-11-25 21:34:57.460591',NULL);
INSERT INTO "readings" VALUES(33,1,39,NULL,'gear-fit','pattern.1.seen','yes',NULL,'forward',NULL,'inch','by eye','RK','2026-11-25 21:35:47.460591',NULL);
INSERT INTO "readings" VALUES(34,1,40,NULL,'gear-fit','key.1.seen','yes',NULL,'forward',NULL,'inch','by eye','RK','2026-11-25 21:36:37.460591',NULL);
INSERT INTO "readings" VALUES(35,1,41,NULL,'gear-fit','free.1.seen','yes',NULL,'forward',NULL,'inch','by eye','RK','2026-11-25 21:37:27.460591',NULL);
INSERT INTO "readings" VALUES(36,1,42,NULL,'gear-fit','turns.1.seen','yes',NULL,'forward',NULL,'inch','by eye','RK','2026-11-25 21:38:17.460591',NULL);
INSERT INTO "readings" VALUES(37,1,43,NULL,'lobe-room','lobe-1.1.gap','0.094',NULL,'forward',NULL,'inch','by eye','RK','2026-11-25 21:38:57.460591',NULL);
INSERT INTO "readings" VALUES(38,1,44,NULL,'lobe-room','lobe-2.1.gap','0.101',NULL,'forward',NULL,'inch','by eye','RK','2026-11-25 21:39:37.460591',NULL);
INSERT INTO "readings" VALUES(39,1,45,NULL,'lobe-room','lobe-3.1.gap','0.088',NULL,'forward',NULL,'inch','by eye','RK','2026-11-25 21:40:17.460591',NULL);
INSERT INTO "readings" VALUES(40,1,46,NULL,'lobe-room','lobe-4.1.gap','0.092',NULL,'forward',NULL,'inch','by eye','RK','2026-11-25 21:40:57.460591',NULL);
INSERT INTO "readings" VALUES(41,1,47,NULL,'lobe-room','lobe-5.1.gap','0.083',NULL,'forward',NULL,'inch','by eye','RK','2026-11-25 21:41:37.460591',NULL);
INSERT INTO "readings" VALUES(42,1,48,NULL,'lobe-room','lobe-6.1.gap','0.097',NULL,'forward',NULL,'inch','by eye','RK','2026-11-25 21:42:17.460591',NULL);
INSERT INTO "readings" VALUES(43,1,49,NULL,'lobe-room','lobe-7.1.gap','0.090',NULL,'forward',NULL,'inch','by eye','RK','2026-11-25 21:42:57.460591',NULL);
INSERT INTO "readings" VALUES(44,1,50,NULL,'lobe-room','lobe-8.1.gap','0.095',NULL,'forward',NULL,'inch','by eye','RK','2026-11-25 21:43:37.460591',NULL);
INSERT INTO "readings" VALUES(45,1,51,NULL,'lobe-room','lobe-9.1.gap','0.086',NULL,'forward',NULL,'inch','by eye','RK','2026-11-25 21:44:17.460591',NULL);
INSERT INTO "readings" VALUES(46,1,52,NULL,'lobe-room','lobe-10.1.gap','0.099',NULL,'forward',NULL,'inch','by eye','RK','2026-11-25 21:44:57.460591',NULL);
INSERT INTO "readings" VALUES(47,1,53,NULL,'lobe-room','lobe-11.1.gap','0.091',NULL,'forward',NULL,'inch','by eye','RK','2026-11-25 21:45:37.460591',NULL);
INSERT INTO "readings" VALUES(48,1,54,NULL,'lobe-room','lobe-12.1.gap','0.089',NULL,'forward',NULL,'inch','by eye','RK','2026-11-25 21:46:17.460591',NULL);
INSERT INTO "readings" VALUES(49,1,56,NULL,'marks','key-1.1.seen','yes',NULL,'forward',NULL,'inch','by eye','RK','2026-11-25 21:51:07.460591','Key of “crank”');
INSERT INTO "readings" VALUES(50,1,57,NULL,'marks','key-2.1.seen','yes',NULL,'forward',NULL,'inch','by eye','RK','2026-11-25 21:51:57.460591','Key of “cam”');
INSERT INTO "readings" VALUES(51,1,58,NULL,'marks','order.1.seen','yes',NULL,'forward',NULL,'inch','by eye','RK','2026-11-25 21:52:47.460591','Order and facing');
INSERT INTO "readings" VALUES(52,1,59,NULL,'marks','paint.1.seen','no',NULL,'forward',NULL,'inch','by eye','RK','2026-11-25 21:53:37.460591','Marks repainted');
INSERT INTO "readings" VALUES(53,1,60,NULL,'marks','mesh-2.1.seen','on',NULL,'forward',NULL,'inch','by eye','RK','2026-11-25 21:54:27.460591','Marks crank-cam');
INSERT INTO "readings" VALUES(54,1,61,NULL,'marks','turned.1.seen','smooth',NULL,'forward',NULL,'inch','by eye','RK','2026-11-25 21:55:17.460591','Two turns by hand');
INSERT INTO "readings" VALUES(55,1,62,NULL,'marks','back.1.seen','yes',NULL,'forward',NULL,'inch','by eye','RK','2026-11-25 21:56:07.460591','Marks after two turns');
INSERT INTO "readings" VALUES(56,1,63,NULL,'backlash','skip.1.said','skipped',NULL,'forward',NULL,'inch','by eye','RK','2026-11-25 21:56:37.460591','Chain drive: no gear teeth to rock.');
INSERT INTO "readings" VALUES(57,1,65,NULL,'sprocket','driver.1.depth','1.482',NULL,'forward',NULL,'inch','by eye','RK','2026-11-25 21:59:17.460591',NULL);
INSERT INTO "readings" VALUES(58,1,66,NULL,'sprocket','driven.1.depth','1.486',NULL,'forward',NULL,'inch','by eye','RK','2026-11-25 21:59:57.460591',NULL);
INSERT INTO "readings" VALUES(59,1,68,NULL,'tdc','stop.1.before','41.25','btdc','forward',NULL,'inch','by eye','RK','2026-11-25 22:09:37.460591',NULL);
INSERT INTO "readings" VALUES(60,1,69,NULL,'tdc','stop.1.after','37.75','atdc','backward',NULL,'inch','by eye','RK','2026-11-25 22:10:17.460591',NULL);
INSERT INTO "readings" VALUES(61,1,70,NULL,'tdc','moved','',NULL,'forward',NULL,'inch','by eye','RK','2026-11-25 22:10:57.460591',NULL);
INSERT INTO "readings" VALUES(62,1,71,NULL,'tdc','stop.2.before','39.5','btdc','forward',NULL,'inch','by eye','RK','2026-11-25 22:11:37.460591',NULL);
INSERT INTO "readings" VALUES(63,1,72,NULL,'tdc','stop.2.after','39.25','atdc','backward',NULL,'inch','by eye','RK','2026-11-25 22:12:17.460591',NULL);
INSERT INTO "readings" VALUES(64,1,73,NULL,'degree','intake.1.before','77.75','atdc','forward','0.050','inch','by eye','RK','2026-11-25 22:12:57.460591',NULL);
INSERT INTO "readings" VALUES(65,1,74,NULL,'degree','intake.1.after','28.75','bbdc','forward','0.050','inch','by eye','RK','2026-11-25 22:13:37.460591',NULL);
INSERT INTO "readings" VALUES(66,1,75,NULL,'degree','exhaust.1.before','34.5','abdc','forward','0.050','inch','by eye','RK','2026-11-25 22:14:17.460591',NULL);
INSERT INTO "readings" VALUES(67,1,76,NULL,'degree','exhaust.1.after','69.25','btdc','forward','0.050','inch','by eye','RK','2026-11-25 22:14:57.460591',NULL);
INSERT INTO "readings" VALUES(68,1,78,NULL,'adjust','try.1.chosen','4',NULL,'forward',NULL,'inch','by eye','RK','2026-11-25 22:23:57.460591','[{"name": "crank gear keyway", "from": "0", "to": "A4", "shift_deg": 4.0}]');
INSERT INTO "readings" VALUES(69,1,79,NULL,'degree','intake.2.before','81.75','atdc','forward','0.050','inch','by eye','RK','2026-11-25 22:24:37.460591',NULL);
INSERT INTO "readings" VALUES(70,1,80,NULL,'degree','intake.2.after','24.75','bbdc','forward','0.050','inch','by eye','RK','2026-11-25 22:25:17.460591',NULL);
INSERT INTO "readings" VALUES(71,1,81,NULL,'adjust','try.2.chosen','7.9375',NULL,'forward',NULL,'inch','by eye','RK','2026-11-25 22:31:17.460591','[{"name": "crank gear keyway", "from": "as it stands", "to": "A4", "shift_deg": 7.9375}]');
INSERT INTO "readings" VALUES(72,1,82,NULL,'degree','sweep-intake.1.point','48','btdc','forward','0.000','inch','by eye','RK','2026-11-25 22:31:57.460591',NULL);
INSERT INTO "readings" VALUES(73,1,83,NULL,'degree','sweep-intake.2.point','40','btdc','forward','0.000','inch','by eye','RK','2026-11-25 22:32:37.460591',NULL);
INSERT INTO "readings" VALUES(74,1,84,NULL,'degree','sweep-intake.3.point','32','btdc','forward','0.002','inch','by eye','RK','2026-11-25 22:33:17.460591',NULL);
INSERT INTO "readings" VALUES(75,1,85,NULL,'degree','sweep-intake.4.point','23.75','btdc','forward','0.009','inch','by eye','RK','2026-11-25 22:33:57.460591',NULL);
INSERT INTO "readings" VALUES(76,1,86,NULL,'degree','sweep-intake.5.point','16','btdc','forward','0.021','inch','by eye','RK','2026-11-25 22:34:37.460591',NULL);
INSERT INTO "readings" VALUES(77,1,87,NULL,'degree','sweep-intake.6.point','8','btdc','forward','0.037','inch','by eye','RK','2026-11-25 22:35:17.460591',NULL);
INSERT INTO "readings" VALUES(78,1,88,NULL,'degree','sweep-intake.7.point','0','atdc','forward','0.057','inch','by eye','RK','2026-11-25 22:35:57.460591',NULL);
INSERT INTO "readings" VALUES(79,1,89,NULL,'degree','sweep-intake.8.point','8.25','atdc','forward','0.080','inch','by eye','RK','2026-11-25 22:36:37.460591',NULL);
INSERT INTO "readings" VALUES(80,1,90,NULL,'degree','sweep-intake.9.point','16','atdc','forward','0.106','inch','by eye','RK','2026-11-25 22:37:17.460591',NULL);
INSERT INTO "readings" VALUES(81,1,91,NULL,'degree','sweep-intake.10.point','24.25','atdc','forward','0.134','inch','by eye','RK','2026-11-25 22:37:57.460591',NULL);
INSERT INTO "readings" VALUES(82,1,92,NULL,'degree','sweep-intake.11.point','32','atdc','forward','0.163','inch','by eye','RK','2026-11-25 22:38:37.460591',NULL);
INSERT INTO "readings" VALUES(83,1,93,NULL,'degree','sweep-intake.12.point','40','atdc','forward','0.193','inch','by eye','RK','2026-11-25 22:39:17.460591',NULL);
INSERT INTO "readings" VALUES(84,1,94,NULL,'degree','sweep-intake.13.point','48','atdc','forward','0.222','inch','by eye','RK','2026-11-25 22:39:57.460591',NULL);
INSERT INTO "readings" VALUES(85,1,95,NULL,'degree','sweep-intake.14.point','56','atdc','forward','0.280','inch','by eye','RK','2026-11-25 22:40:37.460591',NULL);
INSERT INTO "readings" VALUES(86,1,96,NULL,'degree','sweep-intake.15.point','64','atdc','forward','0.276','inch','by eye','RK','2026-11-25 22:41:17.460591',NULL);
INSERT INTO "readings" VALUES(87,1,97,NULL,'degree','sweep-intake.16.point','72','atdc','forward','0.299','inch','by eye','RK','2026-11-25 22:41:57.460591',NULL);
INSERT INTO "readings" VALUES(88,1,98,NULL,'degree','sweep-intake.17.point','80','atdc','forward','0.318','inch','by eye','RK','2026-11-25 22:42:37.460591',NULL);
INSERT INTO "readings" VALUES(89,1,99,NULL,'degree','sweep-intake.18.point','88','atdc','forward','0.334','inch','by eye','RK','2026-11-25 22:43:17.460591',NULL);
INSERT INTO "readings" VALUES(90,1,100,NULL,'degree','sweep-intake.19.point','84','bbdc','forward','0.344','inch','by eye','RK','2026-11-25 22:43:57.460591',NULL);
INSERT INTO "readings" VALUES(91,1,101,NULL,'degree','sweep-intake.20.point','76','bbdc','forward','0.351','inch','by eye','RK','2026-11-25 22:44:37.460591',NULL);
INSERT INTO "readings" VALUES(92,1,102,NULL,'degree','sweep-intake.21.point','68','bbdc','forward','0.353','inch','by eye','RK','2026-11-25 22:45:17.460591',NULL);
INSERT INTO "readings" VALUES(93,1,103,NULL,'degree','sweep-intake.22.point','60','bbdc','forward','0.349','inch','by eye','RK','2026-11-25 22:45:57.460591',NULL);
INSERT INTO "readings" VALUES(94,1,104,NULL,'degree','sweep-intake.23.point','52','bbdc','forward','0.341','inch','by eye','RK','2026-11-25 22:46:37.460591',NULL);
INSERT INTO "readings" VALUES(95,1,105,NULL,'degree','sweep-intake.24.point','44','bbdc','forward','0.328','inch','by eye','RK','2026-11-25 22:47:17.460591',NULL);
INSERT INTO "readings" VALUES(96,1,106,NULL,'degree','sweep-intake.25.point','36','bbdc','forward','0.311','inch','by eye','RK','2026-11-25 22:47:57.460591',NULL);
INSERT INTO "readings" VALUES(97,1,107,NULL,'degree','sweep-intake.26.point','27.75','bbdc','forward','0.290','inch','by eye','RK','2026-11-25 22:48:37.460591',NULL);
INSERT INTO "readings" VALUES(98,1,108,NULL,'degree','sweep-intake.27.point','20','bbdc','forward','0.266','inch','by eye','RK','2026-11-25 22:49:17.460591',NULL);
INSERT INTO "readings" VALUES(99,1,109,NULL,'degree','sweep-intake.28.point','12','bbdc','forward','0.240','inch','by eye','RK','2026-11-25 22:49:57.460591',NULL);
INSERT INTO "readings" VALUES(100,1,110,NULL,'degree','sweep-intake.29.point','4','bbdc','forward','0.211','inch','by eye','RK','2026-11-25 22:50:37.460591',NULL);
INSERT INTO "readings" VALUES(101,1,111,NULL,'degree','sweep-intake.30.point','4','abdc','forward','0.182','inch','by eye','RK','2026-11-25 22:51:17.460591',NULL);
INSERT INTO "readings" VALUES(102,1,112,NULL,'degree','sweep-intake.31.point','12','abdc','forward','0.152','inch','by eye','RK','2026-11-25 22:51:57.460591',NULL);
INSERT INTO "readings" VALUES(103,1,113,NULL,'degree','sweep-intake.32.point','20','abdc','forward','0.123','inch','by eye','RK','2026-11-25 22:52:37.460591',NULL);
INSERT INTO "readings" VALUES(104,1,114,NULL,'degree','sweep-intake.33.point','28','abdc','forward','0.096','inch','by eye','RK','2026-11-25 22:53:17.460591',NULL);
INSERT INTO "readings" VALUES(105,1,115,NULL,'degree','sweep-intake.34.point','36','abdc','forward','0.071','inch','by eye','RK','2026-11-25 22:53:57.460591',NULL);
INSERT INTO "readings" VALUES(106,1,116,NULL,'degree','sweep-intake.35.point','44','abdc','forward','0.049','inch','by eye','RK','2026-11-25 22:54:37.460591',NULL);
INSERT INTO "readings" VALUES(107,1,117,NULL,'degree','sweep-intake.36.point','51.75','abdc','forward','0.030','inch','by eye','RK','2026-11-25 22:55:17.460591',NULL);
INSERT INTO "readings" VALUES(108,1,118,NULL,'degree','sweep-intake.37.point','59.75','abdc','forward','0.016','inch','by eye','RK','2026-11-25 22:55:57.460591',NULL);
INSERT INTO "readings" VALUES(109,1,119,NULL,'degree','sweep-intake.38.point','68','abdc','forward','0.006','inch','by eye','RK','2026-11-25 22:56:37.460591',NULL);
INSERT INTO "readings" VALUES(110,1,120,NULL,'degree','sweep-intake.39.point','76','abdc','forward','0.001','inch','by eye','RK','2026-11-25 22:57:17.460591',NULL);
INSERT INTO "readings" VALUES(111,1,121,NULL,'degree','sweep-intake.40.point','84','abdc','forward','0.000','inch','by eye','RK','2026-11-25 22:57:57.460591',NULL);
INSERT INTO "readings" VALUES(112,1,122,NULL,'degree','intake.3.before','73.75','atdc','forward','0.050','inch','by eye','RK','2026-11-25 22:58:37.460591',NULL);
INSERT INTO "readings" VALUES(113,1,123,NULL,'degree','intake.3.after','32.75','bbdc','forward','0.050','inch','by eye','RK','2026-11-25 22:59:17.460591',NULL);
INSERT INTO "readings" VALUES(114,1,124,NULL,'degree','exhaust.2.before','30.5','bbdc','forward','0.050','inch','by eye','RK','2026-11-25 22:59:57.460591',NULL);
INSERT INTO "readings" VALUES(115,1,126,NULL,'degree','exhaust.2.before','30.25','abdc','forward','0.050','inch','by eye','RK','2026-11-25 23:00:37.460591',NULL);
INSERT INTO "readings" VALUES(116,2,3,NULL,'runout','skip.1.said','skipped',NULL,'forward',NULL,'inch','by eye','TN','2026-11-25 19:45:17.460591','New crank, checked by its maker; the chain has a hydraulic tensioner.');
INSERT INTO "readings" VALUES(117,2,4,NULL,'choice','skip.1.said','skipped',NULL,'forward',NULL,'inch','by eye','TN','2026-11-25 19:45:17.460591','New crank, checked by its maker; the chain has a hydraulic tensioner.');
INSERT INTO "readings" VALUES(118,2,6,NULL,'end-play','fitted-cam.1.seen','all',NULL,'forward',NULL,'mm','by eye','TN','2026-11-25 19:50:07.460591',NULL);
INSERT INTO "readings" VALUES(119,2,7,NULL,'end-play','cam.1.blade','not',NULL,'forward','0.10','mm','by eye','TN','2026-11-25 19:50:47.460591',NULL);
INSERT INTO "readings" VALUES(120,2,8,NULL,'end-play','cam.2.blade','goes',NULL,'forward','0.05','mm','by eye','TN','2026-11-25 19:51:27.460591',NULL);
INSERT INTO "readings" VALUES(121,2,9,NULL,'end-play','cam.3.blade','not',NULL,'forward','0.06','mm','by eye','TN','2026-11-25 19:52:07.460591',NULL);
INSERT INTO "readings" VALUES(122,2,11,NULL,'setting','cheek-cam.1.front','4.512',NULL,'forward',NULL,'mm','by eye','TN','2026-11-25 19:55:47.460591',NULL);
INSERT INTO "readings" VALUES(123,2,12,NULL,'setting','cheek-cam.1.rear','4.508',NULL,'forward',NULL,'mm','by eye','TN','2026-11-25 19:56:27.460591',NULL);
INSERT INTO "readings" VALUES(124,2,13,NULL,'setting','cheek-cam.2.front','4.496',NULL,'forward',NULL,'mm','by eye','TN','2026-11-25 19:57:07.460591',NULL);
INSERT INTO "readings" VALUES(125,2,14,NULL,'setting','cheek-cam.2.rear','4.494',NULL,'forward',NULL,'mm','by eye','TN','2026-11-25 19:57:47.460591',NULL);
INSERT INTO "readings" VALUES(126,2,15,NULL,'setting','cheek-cam.3.front','4.483',NULL,'forward',NULL,'mm','by eye','TN','2026-11-25 19:58:27.460591',NULL);
INSERT INTO "readings" VALUES(127,2,16,NULL,'setting','cheek-cam.3.rear','4.482',NULL,'forward',NULL,'mm','by eye','TN','2026-11-25 19:59:07.460591',NULL);
INSERT INTO "readings" VALUES(128,2,18,NULL,'marks','key-1.1.seen','yes',NULL,'forward',NULL,'mm','by eye','TN','2026-11-25 20:02:57.460591','Key of “crank”');
INSERT INTO "readings" VALUES(129,2,19,NULL,'marks','order.1.seen','yes',NULL,'forward',NULL,'mm','by eye','TN','2026-11-25 20:03:47.460591','Order and facing');
INSERT INTO "readings" VALUES(130,2,20,NULL,'marks','paint.1.seen','yes',NULL,'forward',NULL,'mm','by eye','TN','2026-11-25 20:04:37.460591','Marks repainted');
INSERT INTO "readings" VALUES(131,2,21,NULL,'marks','mesh-2.1.seen','on',NULL,'forward',NULL,'mm','by eye','TN','2026-11-25 20:05:27.460591','Marks crank-intake cam');
INSERT INTO "readings" VALUES(132,2,22,NULL,'marks','mesh-3.1.seen','on',NULL,'forward',NULL,'mm','by eye','TN','2026-11-25 20:06:17.460591','Marks crank-exhaust cam');
INSERT INTO "readings" VALUES(133,2,23,NULL,'marks','turned.1.seen','smooth',NULL,'forward',NULL,'mm','by eye','TN','2026-11-25 20:07:07.460591','Two turns by hand');
INSERT INTO "readings" VALUES(134,2,24,NULL,'marks','back.1.seen','yes',NULL,'forward',NULL,'mm','by eye','TN','2026-11-25 20:07:57.460591','Marks after two turns');
INSERT INTO "readings" VALUES(135,2,25,NULL,'backlash','skip.1.said','skipped',NULL,'forward',NULL,'inch','by eye','TN','2026-11-25 20:08:27.460591','The chain drives both cams: no gear teeth to rock.');
INSERT INTO "readings" VALUES(136,2,26,NULL,'sprocket','skip.1.said','skipped',NULL,'forward',NULL,'inch','by eye','TN','2026-11-25 20:08:57.460591','Both cam sprockets run on fixed hubs; the line was proved when the head was built.');
INSERT INTO "readings" VALUES(137,2,28,NULL,'tdc','drop.1.before','26','btdc','forward','5','mm','by eye','TN','2026-11-25 20:18:37.460591',NULL);
INSERT INTO "readings" VALUES(138,2,29,NULL,'tdc','drop.1.after','26','atdc','forward','5','mm','by eye','TN','2026-11-25 20:19:17.460591',NULL);
INSERT INTO "readings" VALUES(139,2,30,NULL,'tdc','drop.2.before','20','btdc','forward','3','mm','by eye','TN','2026-11-25 20:19:57.460591',NULL);
INSERT INTO "readings" VALUES(140,2,31,NULL,'tdc','drop.2.after','20','atdc','forward','3','mm','by eye','TN','2026-11-25 20:20:37.460591',NULL);
INSERT INTO "readings" VALUES(141,2,32,NULL,'degree','overlap-intake.1.lift','2.64',NULL,'forward',NULL,'mm','by eye','TN','2026-11-25 20:21:17.460591',NULL);
INSERT INTO "readings" VALUES(142,2,33,NULL,'degree','overlap-exhaust.1.lift','2.46',NULL,'forward',NULL,'mm','by eye','TN','2026-11-25 20:21:57.460591',NULL);
INSERT INTO "readings" VALUES(143,1,127,NULL,'tdc','act.1.wheel-moved','knocked with a sleeve',NULL,'forward',NULL,'inch','by eye','RK','2026-11-26 00:38:48.580889',NULL);
CREATE TABLE sheets (
	id INTEGER NOT NULL, 
	job_id INTEGER NOT NULL, 
	seq INTEGER NOT NULL, 
	kind VARCHAR(16) NOT NULL, 
	typed JSON NOT NULL, 
	"by" VARCHAR(8) NOT NULL, 
	at DATETIME NOT NULL, 
	CONSTRAINT pk_sheets PRIMARY KEY (id), 
	CONSTRAINT fk_sheets_job_id FOREIGN KEY(job_id) REFERENCES jobs (id), 
	CONSTRAINT uq_sheets_job_id_seq UNIQUE (job_id, seq)
);
INSERT INTO "sheets" VALUES(1,1,1,'engine','{"cylinders": "6", "firing_order": "1-4-2-5-3-6", "rotation": "clockwise", "unit": "inch", "stroke": "3.780", "rod": "6.614", "valvetrain": "pushrod", "rocker_ratio": "1.5", "lift_at": "lifter"}','RK','2026-11-25 20:48:47.460591');
INSERT INTO "sheets" VALUES(2,1,2,'card','{"intake_duration_deg": "226", "exhaust_duration_deg": "234", "lobe_separation_cam_deg": "111", "advance_deg": "4", "check_lift": "0.050", "intake_max_lift": "0.353", "exhaust_max_lift": "0.353", "unit": "inch"}','RK','2026-11-25 20:53:47.460591');
INSERT INTO "sheets" VALUES(3,1,3,'runout','{"where": "crank gear seat", "places": "8", "dial_division": "0.0005", "unit": "inch"}','RK','2026-11-25 20:59:47.460591');
INSERT INTO "sheets" VALUES(4,1,22,'choice','{"backlash_min": "0.002", "backlash_max": "0.005", "unit": "inch"}','RK','2026-11-25 21:14:47.460591');
INSERT INTO "sheets" VALUES(5,1,28,'end-play','{"crank_min": "0.004", "crank_max": "0.009", "crank_way": "dial", "crank_limits": "thrust bearing", "dial_division": "0.0005", "unit": "inch"}','RK','2026-11-25 21:23:57.460591');
INSERT INTO "sheets" VALUES(6,1,33,'gear-fit','{"bolts": "3", "stages": "30", "steps": "3", "torque_unit": "ft lb", "locker": "medium", "unit": "inch"}','RK','2026-11-25 21:30:47.460591');
INSERT INTO "sheets" VALUES(7,1,55,'train','{"g1_name": "crank", "g1_teeth": "22", "g1_role": "crank", "g1_held": "key", "g2_name": "cam", "g2_teeth": "44", "g2_on": "1", "g2_how": "chain", "g2_role": "cam", "g2_held": "key", "g2_mark": "tooth", "g2_there": "tooth", "crank_key": "0", "cam_key": "180", "unit": "inch"}','RK','2026-11-25 21:50:17.460591');
INSERT INTO "sheets" VALUES(8,1,64,'sprocket','{"tolerance": "0.010", "shim": "0.012", "unit": "inch"}','RK','2026-11-25 21:58:37.460591');
INSERT INTO "sheets" VALUES(9,1,67,'wheel','{"scale": "quarter", "mount": "rear", "division": "1", "dial_division": "0.001", "unit": "inch"}','RK','2026-11-25 22:08:57.460591');
INSERT INTO "sheets" VALUES(10,1,77,'drive','{"a1_kind": "choices", "a1_name": "crank gear keyway", "a1_options": "R8: -8, R4: -4, 0: 0, A4: 4, A8: 8", "a1_fitted": "0", "tight_span": "9.8", "cam_radius": "2.3", "elongation": "0.3", "unit": "inch"}','RK','2026-11-25 22:17:57.460591');
INSERT INTO "sheets" VALUES(11,2,1,'engine','{"cylinders": "4", "firing_order": "1-3-4-2", "rotation": "clockwise", "unit": "mm", "stroke": "77", "rod": "132", "valvetrain": "two-cams-over", "lift_at": "bucket"}','TN','2026-11-25 19:38:47.460591');
INSERT INTO "sheets" VALUES(12,2,2,'card','{"io_btdc_deg": "26", "ic_abdc_deg": "58", "eo_bbdc_deg": "60", "ec_atdc_deg": "24", "check_lift": "1.0", "intake_max_lift": "10.2", "exhaust_max_lift": "9.8", "intake_overlap_min": "2.88", "intake_overlap_max": "2.98", "exhaust_overlap_min": "2.64", "exhaust_overlap_max": "2.74", "unit": "mm"}','TN','2026-11-25 19:44:47.460591');
INSERT INTO "sheets" VALUES(13,2,5,'end-play','{"cam_min": "0.10", "cam_max": "0.20", "cam_limits": "thrust bearing, sprocket, bolt", "unit": "mm"}','TN','2026-11-25 19:49:17.460591');
INSERT INTO "sheets" VALUES(14,2,10,'setting','{"cam_way": "cheeks", "unit": "mm"}','TN','2026-11-25 19:55:07.460591');
INSERT INTO "sheets" VALUES(15,2,17,'train','{"g1_name": "crank", "g1_teeth": "19", "g1_role": "crank", "g1_held": "key", "g2_name": "intake cam", "g2_teeth": "38", "g2_on": "1", "g2_how": "chain", "g2_role": "cam", "g2_held": "bolts", "g2_mark": "tooth", "g2_there": "tooth", "g2_label": "I", "g3_name": "exhaust cam", "g3_teeth": "38", "g3_on": "1", "g3_how": "chain", "g3_role": "cam", "g3_held": "bolts", "g3_mark": "tooth", "g3_there": "tooth", "g3_label": "E", "unit": "mm"}','TN','2026-11-25 20:02:07.460591');
INSERT INTO "sheets" VALUES(16,2,27,'wheel','{"scale": "half", "mount": "front", "division": "0.5", "dial_division": "0.01", "unit": "mm"}','TN','2026-11-25 20:17:57.460591');
INSERT INTO "sheets" VALUES(17,2,34,'drive','{"a1_kind": "pin-vernier", "a1_name": "intake sprocket pins", "a1_on": "intake", "a1_holes": "15", "a1_hub_holes": "16", "a2_kind": "pin-vernier", "a2_name": "exhaust sprocket pins", "a2_on": "exhaust", "a2_holes": "15", "a2_hub_holes": "16", "unit": "mm"}','TN','2026-11-25 20:24:57.460591');
CREATE TABLE voids (
	reading_id INTEGER NOT NULL, 
	seq INTEGER NOT NULL, 
	reason VARCHAR(200) NOT NULL, 
	"by" VARCHAR(8) NOT NULL, 
	at DATETIME NOT NULL, 
	CONSTRAINT pk_voids PRIMARY KEY (reading_id), 
	CONSTRAINT fk_voids_reading_id FOREIGN KEY(reading_id) REFERENCES readings (id)
);
INSERT INTO "voids" VALUES(114,125,'read the wrong side of the dead center','RK','2026-11-25 22:59:57.460591');
CREATE INDEX ix_jobs_touched_at_id ON jobs (touched_at, id);
CREATE INDEX ix_library_kind_name_id ON library (kind, name, id);
CREATE INDEX ix_house_name_id ON house (name, id);
CREATE TRIGGER sheets_no_update BEFORE UPDATE ON sheets BEGIN SELECT RAISE(ABORT, 'sheets are only ever added to'); END;
CREATE TRIGGER sheets_no_delete BEFORE DELETE ON sheets BEGIN SELECT RAISE(ABORT, 'sheets are only ever added to'); END;
CREATE TRIGGER readings_no_update BEFORE UPDATE ON readings BEGIN SELECT RAISE(ABORT, 'readings are only ever added to'); END;
CREATE TRIGGER readings_no_delete BEFORE DELETE ON readings BEGIN SELECT RAISE(ABORT, 'readings are only ever added to'); END;
CREATE TRIGGER voids_no_update BEFORE UPDATE ON voids BEGIN SELECT RAISE(ABORT, 'voids are only ever added to'); END;
CREATE TRIGGER voids_no_delete BEFORE DELETE ON voids BEGIN SELECT RAISE(ABORT, 'voids are only ever added to'); END;
CREATE TRIGGER photos_no_update BEFORE UPDATE ON photos BEGIN SELECT RAISE(ABORT, 'photos are only ever added to'); END;
CREATE TRIGGER photos_no_delete BEFORE DELETE ON photos BEGIN SELECT RAISE(ABORT, 'photos are only ever added to'); END;
CREATE TRIGGER library_no_update BEFORE UPDATE ON library BEGIN SELECT RAISE(ABORT, 'library are only ever added to'); END;
CREATE TRIGGER library_no_delete BEFORE DELETE ON library BEGIN SELECT RAISE(ABORT, 'library are only ever added to'); END;
CREATE TRIGGER house_no_update BEFORE UPDATE ON house BEGIN SELECT RAISE(ABORT, 'house are only ever added to'); END;
CREATE TRIGGER house_no_delete BEFORE DELETE ON house BEGIN SELECT RAISE(ABORT, 'house are only ever added to'); END;
COMMIT;